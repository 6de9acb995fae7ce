<script setup lang="ts">
import { computed } from 'vue'
import { formatCount, formatLength } from '@stern-gate/core/numbers'
import type { ScatterCost } from '@stern-gate/core/lods'

// Triangles by distance, stacked by level
const props = defineProps<{ cost: ScatterCost }>()
/** From the finest level to the coarsest. */
const COLOURS = ['#e08a3c', '#e3c14f', '#7fb27a', '#4f9ba6', '#8d7fb5', '#b58f7f', '#9aa3a6']
const WIDTH = 380,
  LEFT = 44,
  TOP = 6,
  FLOOR = 78
const sums = computed(() => props.cost.bands.triangles.map((band) => band.reduce((a, b) => a + b, 0)))
const most = computed(() => Math.max(1, ...sums.value))
const step = computed(() => (WIDTH - LEFT) / props.cost.bands.triangles.length)
const heightOf = (triangles: number): number => ((FLOOR - TOP) * triangles) / most.value
const bars = computed(() =>
  props.cost.bands.triangles.flatMap((band, i) => {
    let under = 0
    return band.flatMap((triangles, level) => {
      if (triangles === 0) return []
      const y = FLOOR - heightOf(under + triangles)
      under += triangles
      return [
        {
          key: `${i} ${level}`,
          x: LEFT + i * step.value,
          y,
          height: heightOf(triangles),
          fill: COLOURS[level % COLOURS.length]!,
          said: `LOD ${level}: ${formatCount(triangles)} triangles at ${distanceText(i)}`,
        },
      ]
    })
  }),
)
const distanceText = (band: number): string =>
  `${formatLength(band * props.cost.bands.band)} – ${formatLength((band + 1) * props.cost.bands.band)}`
const marks = computed(() =>
  [0, 4, 8, 12].map((band) => ({
    x: LEFT + band * step.value,
    text: formatLength(band * props.cost.bands.band),
  })),
)
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} 94`" role="img" aria-label="Triangles by distance, stacked by level">
    <text :x="LEFT - 5" :y="TOP + 8" text-anchor="end">{{ formatCount(most) }}</text>
    <text :x="LEFT - 5" :y="FLOOR" text-anchor="end">0</text>
    <line :x1="LEFT" :x2="WIDTH" :y1="FLOOR" :y2="FLOOR" />
    <rect
      v-for="b in bars"
      :key="b.key"
      :x="b.x + 0.5"
      :y="b.y"
      :width="step - 1"
      :height="b.height"
      :fill="b.fill"
    >
      <title>{{ b.said }}</title>
    </rect>
    <text v-for="m in marks" :key="m.x" :x="m.x" y="91">{{ m.text }}</text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
text {
  fill: var(--hud-ink);
  font: 500 10.5px var(--mono);
}
line {
  stroke: var(--hud-ink);
  stroke-opacity: 0.5;
}
</style>
