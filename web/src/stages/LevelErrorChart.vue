<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { formatLength } from '@stern-gate/core/numbers'
import { errorAt, type Switches } from './levelsLayout'

// Error of each level against distance, with the switches as pins that are dragged
const props = defineProps<{
  state: AssetState
  switches: Switches
  /** What the file says; null: nothing. */
  inFile: Switches | null
  locked: boolean
  /** Whether the pins stand elsewhere than the file says. */
  moved: boolean
}>()
const emit = defineEmits<{
  move: [pin: number, distance: number]
  look: [number]
  write: []
  again: []
}>()
const chain = computed(() => props.state.mesh?.chain ?? null)
const svg = useTemplateRef('svg')
const WIDTH = 620,
  HEIGHT = 122,
  LEFT = 30,
  RIGHT = 590,
  TOP = 22,
  FLOOR = 104
/** Pixels of error at the top of the scale. */
const MOST = 4
const pins = computed(() =>
  [...props.switches.levels, props.switches.cull].map((distance, i) => ({ distance, i })),
)
const finite = computed(() => pins.value.map((p) => p.distance).filter(Number.isFinite))
/** The scale doubles from mark to mark, from below the first switch to beyond the last. */
const from = computed(() => 2 ** Math.floor(Math.log2(Math.max(0.01, Math.min(...finite.value) / 2.5))))
const to = computed(() => 2 ** Math.ceil(Math.log2(Math.max(...finite.value, from.value * 8) * 1.5)))
const xOf = (distance: number): number =>
  LEFT +
  ((RIGHT - LEFT) * Math.log(Math.min(Math.max(distance, from.value), to.value) / from.value)) /
    Math.log(to.value / from.value)
const distanceAt = (x: number): number =>
  from.value * (to.value / from.value) ** Math.min(1, Math.max(0, (x - LEFT) / (RIGHT - LEFT)))
const yOf = (pixels: number): number => FLOOR - ((FLOOR - TOP) * Math.min(pixels, MOST)) / MOST
const marks = computed(() => {
  const all: number[] = []
  for (let d = from.value; d <= to.value * 1.001; d *= 2) all.push(d)
  return all
})
const curves = computed(() =>
  (chain.value?.errors ?? []).map((e, i) => ({
    level: e.level,
    path: Array.from({ length: 81 }, (_, k) => {
      const distance = from.value * (to.value / from.value) ** (k / 80)
      const pixels = errorAt(chain.value!, i, distance, props.state)
      return pixels > MOST * 1.05 ? '' : `${xOf(distance).toFixed(1)},${yOf(pixels).toFixed(1)}`
    })
      .filter(Boolean)
      .join(' '),
  })),
)
const pixelsAt = (i: number): number | null =>
  chain.value && i < chain.value.errors.length && Number.isFinite(pins.value[i]!.distance)
    ? errorAt(chain.value, i, pins.value[i]!.distance, props.state)
    : null
const shows = (i: number): boolean => (pixelsAt(i) ?? 0) > 1.02
const words = (i: number): string => {
  const pixels = pixelsAt(i)
  const what = i < props.switches.levels.length ? `LOD ${props.state.levels[i + 1]!.level}` : 'nothing'
  const error = pixels === null ? '' : `, ${pixels < 0.01 ? '0' : pixels.toPrecision(2)} px`
  return `${what} from ${formatLength(pins.value[i]!.distance)} on${error}`
}
const dragged = ref<number | null>(null)
function hold(event: PointerEvent, i: number): void {
  emit('look', Math.min(i, props.switches.levels.length - 1))
  if (props.locked || event.button !== 0) return
  dragged.value = i
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent): void {
  if (dragged.value === null || !svg.value) return
  const box = svg.value.getBoundingClientRect()
  emit('move', dragged.value, distanceAt(((event.clientX - box.left) / box.width) * WIDTH))
}
function nudge(event: KeyboardEvent, i: number): void {
  const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (by === 0 || props.locked) return
  event.preventDefault()
  emit('move', i, pins.value[i]!.distance * (event.shiftKey ? 1.01 : 1.05) ** by)
}
</script>

<template>
  <section class="chart" aria-label="Error of the levels against distance">
    <div class="head">
      <h3 title="What 99 % of a level’s surface keep">
        Error against distance, in pixels of {{ state.screen.title.toLowerCase() }}’s screen
      </h3>
      <span class="soft scale">{{ formatLength(from) }} … {{ formatLength(to) }}, doubling</span>
      <span class="spring" />
      <button v-if="moved" class="btn" @click="emit('again')">
        {{ inFile ? 'As the file says' : 'As measured' }}
      </button>
      <button
        v-if="chain && chain.errors.length > 0"
        class="btn"
        :class="{ go: moved || !inFile }"
        :disabled="locked || (!moved && inFile !== null)"
        data-write-switches
        @click="emit('write')"
      >
        Write these switches
      </button>
    </div>
    <svg
      v-if="chain && chain.errors.length > 0"
      ref="svg"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      @pointermove="move"
      @pointerup="dragged = null"
    >
      <line :x1="LEFT" :x2="RIGHT" :y1="FLOOR" :y2="FLOOR" class="axis" />
      <g v-for="d in marks" :key="d">
        <line :x1="xOf(d)" :x2="xOf(d)" :y1="FLOOR" :y2="FLOOR + 4" class="axis" />
      </g>
      <line :x1="LEFT" :x2="RIGHT" :y1="yOf(1)" :y2="yOf(1)" class="one" />
      <text :x="RIGHT + 4" :y="yOf(1) + 4" class="px">1 px</text>
      <polyline
        v-for="(c, i) in curves"
        :key="c.level"
        :points="c.path"
        class="curve"
        :style="{ opacity: 1 - i * 0.18 }"
      />
      <template v-if="inFile">
        <line
          v-for="(d, i) in inFile.levels"
          :key="`f${i}`"
          :x1="xOf(d)"
          :x2="xOf(d)"
          :y1="TOP"
          :y2="FLOOR"
          class="file"
        />
      </template>
      <template v-for="p in pins" :key="`p${p.i}`">
        <g
          v-if="Number.isFinite(p.distance)"
          class="pin"
          :class="{ shows: shows(p.i) }"
          role="slider"
          tabindex="0"
          :aria-label="words(p.i)"
          :aria-valuenow="p.distance"
          :data-pin="p.i"
          @pointerdown="hold($event, p.i)"
          @keydown="nudge($event, p.i)"
        >
          <title>{{ words(p.i) }}</title>
          <line :x1="xOf(p.distance)" :x2="xOf(p.distance)" :y1="10" :y2="FLOOR" />
          <path :d="`M${xOf(p.distance) - 6} 1h12v9l-6 6l-6 -6z`" />
          <text :x="xOf(p.distance)" :y="FLOOR + 13" class="at">{{ formatLength(p.distance) }}</text>
        </g>
      </template>
    </svg>
    <p v-else class="soft">
      The levels lie in files of their own: how far each is off is measured once an output joins them – any
      step does that.
    </p>
  </section>
</template>

<style scoped>
.chart {
  border-top: 1px solid var(--line);
  background: var(--sheet);
  padding: 7px 12px 4px;
  min-width: 0;
}
.head {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 26px;
}
h3 {
  font: 600 12.5px/1.4 var(--narrow);
  margin: 0;
}
.spring {
  flex: 1;
}
.btn {
  padding: 2px 9px;
  font-size: 12px;
}
svg {
  width: 100%;
  max-height: 148px;
  display: block;
  touch-action: none;
}
.axis {
  stroke: var(--ink);
  stroke-width: 1;
}
.one {
  stroke: var(--clear);
  stroke-dasharray: 5 4;
}
.px {
  fill: var(--clear);
  font: 500 11px var(--mono);
}
.tick,
.at {
  font: 500 10.5px var(--mono);
  fill: var(--soft);
  text-anchor: middle;
}
.at {
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
}
.curve {
  fill: none;
  stroke: var(--tide);
  stroke-width: 2;
}
.file {
  stroke: var(--soft);
  stroke-dasharray: 3 3;
}
.pin {
  cursor: ew-resize;
}
.pin line {
  stroke: var(--ink);
}
.pin path {
  fill: var(--tide);
}
.pin.shows path {
  fill: var(--caution);
}
.pin,
.pin:focus,
.pin:focus-visible {
  outline: none !important;
}
.scale {
  font-size: 11.5px;
}
.pin:focus-visible path {
  stroke: var(--ink);
  stroke-width: 2;
}
p {
  margin: 4px 0 8px;
  font-size: 12.5px;
}
</style>
