<script setup lang="ts">
import type { AssetState, OptionValue, RemedyField, RemedyOptions } from '@stern-gate/contract'
import { emptyWord, fieldAbout, fieldLabel, thingsOf } from '../../bench/stepFields'
import NumberList from './NumberList.vue'

// What can be chosen of a remedy, each option with what it is for
const props = defineProps<{
  fields: readonly RemedyField[]
  options: RemedyOptions
  state: AssetState | null
}>()
const emit = defineEmits<{ change: [RemedyOptions] }>()

const things = (field: RemedyField): readonly string[] =>
  props.state ? thingsOf(field.kind, props.state) : []
const set = (field: RemedyField, value: OptionValue): void =>
  emit('change', { ...props.options, [field.name]: value })
function take(field: RemedyField, event: Event): void {
  const text = (event.target as HTMLInputElement).value
  if ((field.kind !== 'number' && field.kind !== 'whole') || (text === '' && field.optional))
    return set(field, text === '' && field.optional ? null : text)
  const value = Number(text)
  if (text !== '' && Number.isFinite(value)) set(field, field.kind === 'whole' ? Math.round(value) : value)
}
</script>

<template>
  <component
    :is="f.kind === 'numbers' ? 'div' : 'label'"
    v-for="f in fields"
    :key="f.name"
    class="row"
    :class="{ across: f.kind === 'switch' }"
  >
    <span class="name">{{ fieldLabel(f) }}</span>
    <input
      v-if="f.kind === 'switch'"
      type="checkbox"
      :checked="options[f.name] === true"
      :data-field="f.name"
      @change="set(f, ($event.target as HTMLInputElement).checked)"
    />
    <select
      v-else-if="f.choices || things(f).length > 0"
      class="field"
      :value="options[f.name] ?? ''"
      :data-field="f.name"
      @change="take(f, $event)"
    >
      <option v-if="f.optional" value="">{{ emptyWord(f) }}</option>
      <option v-for="c in f.choices ?? things(f)" :key="c" :value="c">{{ c }}</option>
    </select>
    <NumberList
      v-else-if="f.kind === 'numbers'"
      :field="f"
      :values="options[f.name]"
      @change="(values) => set(f, values)"
    />
    <span v-else-if="f.kind === 'colour'" class="colour">
      <input
        type="color"
        :value="options[f.name] ?? '#808080'"
        :aria-label="`${fieldLabel(f)}: choose`"
        @input="take(f, $event)"
      />
      <input
        class="field mono"
        type="text"
        placeholder="#rrggbb"
        pattern="#[0-9a-fA-F]{6}"
        :value="options[f.name] ?? ''"
        :data-field="f.name"
        @change="take(f, $event)"
      />
    </span>
    <input
      v-else
      class="field"
      :type="f.kind === 'number' || f.kind === 'whole' ? 'number' : 'text'"
      step="any"
      :min="f.min"
      :max="f.max"
      :value="options[f.name] ?? ''"
      :data-field="f.name"
      @input="take(f, $event)"
    />
    <small class="soft">{{ fieldAbout(f) }}</small>
  </component>
</template>

<style scoped>
.row {
  display: block;
  margin-bottom: 11px;
}
.row.across {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
}
.row.across small {
  grid-column: 1 / -1;
}
.name {
  display: block;
  font: 500 12.5px/1.4 var(--narrow);
}
.field {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 5px 8px;
  min-width: 0;
  font: 400 12.5px/1.3 var(--text);
}
.colour {
  display: flex;
  gap: 6px;
}
.colour input[type='color'] {
  width: 34px;
  height: 28px;
  padding: 1px;
  flex: none;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
}
.field:invalid {
  border-color: var(--stop);
}
small {
  display: block;
  font-size: 11.5px;
  line-height: 1.35;
  margin-top: 2px;
}
</style>
