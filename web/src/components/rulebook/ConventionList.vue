<script setup lang="ts">
import { computed } from 'vue'
import { useRulebook } from '../../stores/rulebook'

// What holds for the whole project
const book = useRulebook()
const titles = (of: Record<string, { title: string }> | undefined) =>
  Object.entries(of ?? {}).map(([id, { title }]) => ({ id, title }))
const classes = computed(() => titles(book.draft?.classes))
const targets = computed(() => titles(book.draft?.targets))
function number(path: string, text: string, optional: boolean): void {
  if (text.trim() === '' && optional) return book.set([path], null)
  const value = Number(text)
  if (Number.isFinite(value) && value > 0) book.set([path], value)
}
</script>

<template>
  <div v-if="book.draft" class="scroll">
    <label
      ><b>Name of the rulebook</b
      ><input
        class="field"
        :value="book.draft.name"
        maxlength="80"
        @change="book.set(['name'], ($event.target as HTMLInputElement).value)"
    /></label>
    <label
      ><b>Green of normal maps points</b
      ><select
        class="field"
        :value="book.draft.green"
        data-convention="green"
        @change="book.set(['green'], ($event.target as HTMLSelectElement).value)"
      >
        <option value="up">up</option>
        <option value="down">down</option>
      </select></label
    >
    <label
      ><b>Colour tags in texture files</b
      ><select
        class="field"
        :value="book.draft.colourTags"
        @change="book.set(['colourTags'], ($event.target as HTMLSelectElement).value)"
      >
        <option value="count">are read by somebody</option>
        <option value="ignored">are ignored by everybody</option>
      </select></label
    >
    <label
      ><b>Class of what nothing says the class of</b
      ><select
        class="field"
        :value="book.draft.defaultClass"
        @change="book.set(['defaultClass'], ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="c in classes" :key="c.id" :value="c.id">{{ c.title }}</option></select
      ><small class="soft">What it expects is a note for them, and holds nothing.</small></label
    >
    <label
      ><b>Target without a choice</b
      ><select
        class="field"
        :value="book.draft.defaultTarget"
        @change="book.set(['defaultTarget'], ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="t in targets" :key="t.id" :value="t.id">{{ t.title }}</option>
      </select></label
    >
    <label
      ><b>Height of the reference person</b
      ><input
        class="field mono"
        type="number"
        step="0.01"
        :value="book.draft.personHeight"
        @change="number('personHeight', ($event.target as HTMLInputElement).value, false)"
      /><small class="soft">metres</small></label
    >
    <label
      ><b>Step of the grid</b
      ><input
        class="field mono"
        type="number"
        step="0.1"
        placeholder="by size"
        :value="book.draft.gridStep ?? ''"
        @change="number('gridStep', ($event.target as HTMLInputElement).value, true)"
      /><small class="soft">metres between the strong lines</small></label
    >
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
  padding: 16px 18px 24px;
  flex: 1;
  min-height: 0;
}
label {
  display: grid;
  grid-template-columns: 260px 220px 1fr;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
b {
  font-weight: 500;
}
.field {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 4px 7px;
}
</style>
