<script setup lang="ts">
import { computed } from 'vue'
import type { ApartWay, PartPivot } from '@stern-gate/contract'
import { useScene } from '../../stores/scene'

// How the file is taken apart: each way with how many assets it gives
const scene = useScene()
const titles: Record<ApartWay, [string, string]> = {
  top: ['Top nodes', 'each node at the top of the scene is an asset'],
  groups: ['Groups', 'each node that holds others is an asset'],
  name: ['Names', 'nodes whose names begin alike are an asset'],
  distance: ['Distance', 'nodes that stand close together are an asset'],
  nodes: ['Each mesh', 'every mesh node is an asset'],
  whole: ['As one', 'the file stays one asset'],
}
const ways = computed(() =>
  scene.ways.map(({ way, parts }) => ({
    way,
    title: titles[way][0],
    does: titles[way][1],
    count: way === scene.plan.way ? scene.parts.length : parts.length,
  })),
)
const pivots: [PartPivot, string][] = [
  ['own', 'own node, else foot'],
  ['foot', 'middle of the foot'],
  ['scene', 'origin of the scene'],
]
const number = (event: Event): number => Number((event.target as HTMLInputElement).value)
</script>

<template>
  <div class="ways">
    <div class="group" role="radiogroup" aria-label="Way to take it apart">
      <button
        v-for="w in ways"
        :key="w.way"
        class="btn"
        :class="{ on: w.way === scene.plan.way }"
        role="radio"
        :aria-checked="w.way === scene.plan.way"
        :title="w.does"
        :data-way="w.way"
        @click="scene.chooseWay(w.way)"
      >
        {{ w.title }} <span class="mono">{{ w.count }}</span>
      </button>
    </div>
    <label v-if="scene.plan.way === 'name'"
      >words that are alike
      <input
        type="number"
        min="1"
        max="6"
        :value="scene.proposal?.words"
        @change="scene.change({ words: Math.min(6, Math.max(1, number($event))) })"
    /></label>
    <label v-if="scene.plan.way === 'distance'"
      >up to
      <input
        type="number"
        min="0"
        step="any"
        :value="scene.proposal?.distance"
        @change="scene.change({ distance: Math.max(0, number($event)) })"
      />
      m apart</label
    >
    <template v-if="scene.plan.way !== 'whole'">
      <label
        >origin
        <select
          :value="scene.plan.pivot"
          data-pivot
          @change="scene.change({ pivot: ($event.target as HTMLSelectElement).value as PartPivot })"
        >
          <option v-for="[key, word] in pivots" :key="key" :value="key">{{ word }}</option>
        </select></label
      >
      <label title="What is there several times becomes one asset with a placement for each"
        ><input
          type="checkbox"
          :checked="scene.plan.copies"
          @change="scene.change({ copies: ($event.target as HTMLInputElement).checked })"
        />
        copies are one asset</label
      >
    </template>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 8px 18px;
  border-bottom: 1px solid var(--line);
}
.group {
  display: flex;
  gap: 4px;
}
label {
  display: flex;
  gap: 5px;
  align-items: center;
  font: 500 12px/1 var(--narrow);
  color: var(--soft);
}
input[type='number'] {
  width: 62px;
  font: 400 12px/1 var(--mono);
}
input[type='number'],
select {
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 4px 5px;
}
.btn .mono {
  opacity: 0.75;
}
</style>
