<script setup lang="ts">
import { stations, stationTitles, type Station, type Tally } from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core/numbers'
import LevelShape from '../../marks/LevelShape.vue'

defineProps<{ tally: Tally; current: Station }>()
defineEmits<{ go: [Station] }>()
const words = {
  stop: 'stops it',
  caution: 'has a caution',
  note: 'has a note',
  waived: 'has waivers only',
  clear: 'is clear',
  none: 'does not apply',
} as const
</script>

<template>
  <nav class="rail" aria-label="Stations">
    <button
      v-for="(s, i) in stations"
      :key="s"
      class="stop"
      :class="{ on: s === current }"
      :aria-current="s === current ? 'step' : undefined"
      :data-station="s"
      :data-state="tally[s].state"
      @click="$emit('go', s)"
    >
      <span class="pt"
        ><LevelShape :state="tally[s].state" />{{ tally[s].count ? formatCount(tally[s].count) : '' }}</span
      >
      <span class="n"
        ><span class="key">{{ (i + 1) % 10 }}</span> {{ stationTitles[s]
        }}<span class="visually-hidden"> {{ words[tally[s].state] }}</span></span
      >
    </button>
  </nav>
</template>

<style scoped>
.rail {
  position: relative;
  display: grid;
  grid-template-columns: repeat(10, 1fr);
  padding: 0 30px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
}
.rail::before {
  content: '';
  position: absolute;
  left: 7%;
  right: 7%;
  top: 21px;
  height: 1px;
  background: var(--soft);
  opacity: 0.55;
}
.stop {
  display: flex;
  flex-direction: column;
  align-items: center;
  position: relative;
  padding: 11px 0 0;
  gap: 4px;
  background: none;
  border: 0;
  cursor: pointer;
  height: 60px;
}
.pt {
  background: var(--sheet);
  padding: 0 6px;
  display: flex;
  align-items: center;
  gap: 4px;
  font: 500 11px/1 var(--mono);
  height: 20px;
}
.pt :deep(svg) {
  width: 16px;
  height: 16px;
}
.n {
  font: 500 12px/1 var(--narrow);
  color: var(--soft);
  white-space: nowrap;
}
.on .n {
  color: var(--ink);
  font-weight: 600;
}
.on::after {
  content: '';
  position: absolute;
  bottom: -1px;
  left: 12px;
  right: 12px;
  height: 3px;
  background: var(--tide);
}
.stop:hover .n {
  color: var(--ink);
}
</style>
