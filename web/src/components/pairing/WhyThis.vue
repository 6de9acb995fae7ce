<script setup lang="ts">
import { computed } from 'vue'
import { inputWords, presetOf, surfacePresetNames } from '@stern-gate/core/pairing'
import { fileName } from '@stern-gate/core/paths'
import { usePairing } from '../../stores/pairing'

// Why this texture, and the next best by 1 to 3
const pairing = usePairing()
const fileOf = (id: string): string => fileName(pairing.textures.get(id)?.path ?? '')
const cell = computed(() => pairing.focused)
const slot = computed(() => pairing.lines.find((l) => l.slot.id === pairing.focus?.slot)?.slot ?? null)
const rivals = computed(() =>
  (cell.value?.rivals ?? []).map((id) => pairing.lines.find((l) => l.slot.id === id)?.slot.slot ?? ''),
)
/** Cells of the line that would be handed over. */
const ready = computed(() => {
  const line = pairing.lines.find((l) => l.slot.id === pairing.focus?.slot)
  return [...(line?.cells.values() ?? [])].filter(pairing.isReady).length
})
const input = computed(() => (pairing.focus ? inputWords[pairing.focus.input] : ''))
function give(event: Event): void {
  if (cell.value) void pairing.choose(cell.value, null, (event.target as HTMLSelectElement).value)
}
const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
</script>

<template>
  <section class="why" aria-label="Why" aria-live="polite">
    <div v-if="slot">
      <b class="narrow"
        >{{ slot.slot }} · {{ upper(input) }} · {{ cell?.name || (cell ? 'open' : 'not asked for') }}</b
      >
      <p v-if="cell" data-why>
        {{ cell.reason }}
        <template v-if="cell.wrongInput">
          <em>Its pixels look like {{ inputWords[cell.wrongInput] }}.</em>
        </template>
        <template v-if="rivals.length"> {{ rivals.join(', ') }} would have it, too.</template>
        <template v-if="cell.layout">
          Its channels stand in the order {{ cell.layout }}; it is repacked.</template
        >
        <template v-if="cell.inverted"> It carries gloss; it is turned to roughness.</template>
      </p>
      <p v-else class="soft">
        The class asks for no {{ input }} here. Drag a texture onto the cell to give it one.
      </p>
    </div>
    <p v-else class="soft">Choose a cell to see why it has its texture, and what else could be.</p>
    <div v-if="cell" class="next">
      <button
        v-if="ready > 0"
        class="btn"
        :disabled="pairing.busy"
        data-accept-line
        @click="pairing.acceptLine(cell.slot)"
      >
        Accept {{ ready === 1 ? 'the cell' : `the ${ready} cells` }} of this line <kbd>↵</kbd>
      </button>
      <button
        v-for="(o, i) in pairing.choices"
        :key="o.texture"
        class="choice"
        :title="o.reason"
        :data-choice="i + 1"
        @click="pairing.take(i + 1)"
      >
        <kbd>{{ i + 1 }}</kbd><span class="mono">{{ fileOf(o.texture) }}</span
        ><span class="soft mono">{{ o.confidence.toFixed(2) }}</span>
      </button>
      <button
        v-if="pairing.mayStayOpen"
        class="choice"
        :data-choice="pairing.choices.length + 1"
        @click="pairing.take(pairing.choices.length + 1)"
      >
        <kbd>{{ pairing.choices.length + 1 }}</kbd><span>leave it open</span>
      </button>
      <label v-if="pairing.focus?.input === 'basecolor'" class="values">
        or by values alone
        <select :value="cell.preset ?? ''" aria-label="Surface by values" data-preset @change="give">
          <option value="" disabled>choose a surface</option>
          <option v-for="name in surfacePresetNames" :key="name" :value="name">
            {{ presetOf(name)!.title }}
          </option>
        </select>
      </label>
    </div>
  </section>
</template>

<style scoped>
.why {
  border-top: 1px solid var(--line);
  background: var(--sheet);
  padding: 10px 16px;
  display: grid;
  grid-template-columns: 1fr 300px;
  gap: 18px;
  min-height: 92px;
  flex: none;
}
.why p {
  margin-top: 3px;
}
em {
  font-style: normal;
  color: var(--stop);
}
.next {
  display: grid;
  align-content: start;
  gap: 4px;
}
.btn {
  justify-self: start;
  margin-bottom: 2px;
}
.choice {
  display: flex;
  gap: 7px;
  align-items: center;
  min-width: 0;
  padding: 1px 2px;
  background: none;
  border: 0;
  text-align: left;
  cursor: pointer;
}
.choice:hover .mono:first-of-type {
  text-decoration: underline;
}
.values {
  display: flex;
  gap: 7px;
  align-items: center;
  color: var(--soft);
}
.values select {
  padding: 2px 4px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
}
.choice span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.choice .soft {
  flex: none;
}
</style>
