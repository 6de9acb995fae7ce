<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { GaugeUnit } from '@stern-gate/contract'
import { gaugeText } from '../../words/formats'
import { roundedLimit, soundingBars, soundingScale, type ShownLimit } from './soundingScale'

// The distribution of what a rule measures, with its limits as pins that are dragged
const props = defineProps<{
  values: readonly { asset: string; name: string; value: number }[]
  limits: readonly ShownLimit[]
  before: readonly ShownLimit[]
  unit: GaugeUnit
  scale: 'linear' | 'log'
}>()
const emit = defineEmits<{ limit: [ShownLimit, number]; look: [string[]] }>()
const HEIGHT = 232,
  FOOT = 26,
  HEAD = 46,
  BARS = 48
const svg = ref<SVGSVGElement | null>(null)
/** Drawn in the page's own pixels, so that words keep their size. */
const WIDTH = ref(640)
let watching: ResizeObserver | null = null
onMounted(() => {
  watching = new ResizeObserver(
    ([entry]) => (WIDTH.value = Math.max(200, Math.round(entry!.contentRect.width))),
  )
  watching.observe(svg.value!)
})
onBeforeUnmount(() => watching?.disconnect())
const numbers = computed(() => props.values.map((v) => v.value))
const held = ref<{ limit: ShownLimit; at: number } | null>(null)
/** Limits while one of them is held: it follows the pointer at once. */
const shown = computed(() =>
  props.limits.map((l) =>
    held.value?.limit.path.join() === l.path.join() ? { ...l, value: held.value.at } : l,
  ),
)
const scale = computed(() =>
  soundingScale(
    numbers.value,
    [...props.limits, ...props.before].map((l) => l.value),
    props.scale,
  ),
)
const within =
  (limits: readonly ShownLimit[]) =>
  (value: number): boolean =>
    limits.every((l) => (l.side === 'most' ? value <= l.value : value >= l.value))
const bars = computed(() =>
  soundingBars(numbers.value, scale.value, BARS, within(shown.value), within(props.before)),
)
const top = computed(() => Math.max(1, ...bars.value.map((b) => b.within + b.newly + b.beyond)))
const height = (n: number): number => (n / top.value) * (HEIGHT - FOOT - HEAD - 8)
const sums = computed(() => ({
  within: bars.value.reduce((s, b) => s + b.within, 0),
  newly: bars.value.reduce((s, b) => s + b.newly, 0),
  beyond: bars.value.reduce((s, b) => s + b.beyond, 0),
}))
const moved = computed(() =>
  props.before.filter((b) =>
    props.limits.some((l) => l.path.join() === b.path.join() && l.value !== b.value),
  ),
)
/** The stretch between the limits. */
const wash = computed(() => {
  const least = Math.max(
      0,
      ...shown.value.filter((l) => l.side === 'least').map((l) => scale.value.at(l.value)),
    ),
    most = Math.min(1, ...shown.value.filter((l) => l.side === 'most').map((l) => scale.value.at(l.value)))
  return { from: least, to: Math.max(least, most) }
})
const isWhole = computed(
  () =>
    props.unit === 'triangles' ||
    props.unit === 'texels' ||
    (props.unit === 'count' && numbers.value.every((v) => Number.isInteger(v))),
)
const clamp = (at: number): number => Math.min(1, Math.max(0, at))
const text = (value: number): string => gaugeText(value, props.unit)

function take(limit: ShownLimit, event: PointerEvent): void {
  ;(event.target as Element).setPointerCapture(event.pointerId)
  held.value = { limit, at: limit.value }
}
function drag(event: PointerEvent): void {
  if (!held.value || !svg.value) return
  const box = svg.value.getBoundingClientRect()
  const at = scale.value.value(clamp((event.clientX - box.left) / box.width))
  held.value = { ...held.value, at: roundedLimit(at, isWhole.value) }
}
function drop(): void {
  if (held.value) emit('limit', held.value.limit, held.value.at)
  held.value = null
}
function nudge(limit: ShownLimit, way: number, event: KeyboardEvent): void {
  event.preventDefault()
  const at = scale.value.value(clamp(scale.value.at(limit.value) + way * (event.shiftKey ? 0.05 : 0.01)))
  const next = roundedLimit(at, isWhole.value)
  emit(
    'limit',
    limit,
    next === limit.value
      ? roundedLimit(limit.value + way * (isWhole.value ? 1 : Math.abs(limit.value) * 0.05), isWhole.value)
      : next,
  )
}
function look(bar: { from: number; to: number }): void {
  emit('look', [
    ...new Set(
      props.values
        .filter((v) => {
          const at = clamp(scale.value.at(v.value))
          return at >= bar.from && (at < bar.to || bar.to === 1)
        })
        .map((v) => v.asset),
    ),
  ])
}
</script>

<template>
  <div class="sounding">
    <svg
      ref="svg"
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      role="group"
      :aria-label="`${values.length} values`"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="held = null"
    >
      <defs>
        <pattern id="newly" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--caution)" stroke-width="2" />
        </pattern>
        <pattern id="beyond" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--stop)" stroke-width="2" />
        </pattern>
      </defs>
      <rect
        :x="wash.from * WIDTH"
        :y="HEAD"
        :width="(wash.to - wash.from) * WIDTH"
        :height="HEIGHT - FOOT - HEAD"
        fill="var(--wash)"
      />
      <g v-for="b in bars" :key="b.from" class="bar" @click="look(b)">
        <rect
          :x="b.from * WIDTH"
          :y="HEAD"
          :width="WIDTH / BARS"
          :height="HEIGHT - FOOT - HEAD"
          fill="transparent"
        />
        <rect
          :x="b.from * WIDTH + 1"
          :y="HEIGHT - FOOT - height(b.within)"
          :width="WIDTH / BARS - 2"
          :height="height(b.within)"
          fill="var(--tide)"
        />
        <rect
          :x="b.from * WIDTH + 1"
          :y="HEIGHT - FOOT - height(b.within + b.newly)"
          :width="WIDTH / BARS - 2"
          :height="height(b.newly)"
          fill="url(#newly)"
        />
        <rect
          :x="b.from * WIDTH + 1"
          :y="HEIGHT - FOOT - height(b.within + b.newly + b.beyond)"
          :width="WIDTH / BARS - 2"
          :height="height(b.beyond)"
          fill="url(#beyond)"
        />
        <title>
          {{ text(scale.value(b.from)) }} to {{ text(scale.value(b.to)) }}:
          {{ b.within + b.newly + b.beyond }}
        </title>
      </g>
      <path :d="`M0 ${HEIGHT - FOOT}H${WIDTH}`" stroke="var(--ink)" />
      <g v-for="t in scale.ticks" :key="t" class="tick">
        <path :d="`M${scale.at(t) * WIDTH} ${HEIGHT - FOOT}v4`" stroke="var(--ink)" />
        <text
          :x="Math.min(WIDTH - 20, Math.max(14, scale.at(t) * WIDTH))"
          :y="HEIGHT - 8"
          text-anchor="middle"
        >
          {{ text(t) }}
        </text>
      </g>
      <path
        v-for="b in moved"
        :key="b.path.join()"
        :d="`M${clamp(scale.at(b.value)) * WIDTH} ${HEAD}V${HEIGHT - FOOT}`"
        stroke="var(--soft)"
        stroke-dasharray="3 3"
      />
      <g
        v-for="(l, i) in shown"
        :key="l.path.join()"
        class="pin"
        tabindex="0"
        role="slider"
        :aria-label="l.words"
        :aria-valuenow="l.value"
        :aria-valuetext="text(l.value)"
        :data-limit="l.path.join('.')"
        @pointerdown.prevent="take(limits[i]!, $event)"
        @keydown.left="nudge(limits[i]!, -1, $event)"
        @keydown.right="nudge(limits[i]!, 1, $event)"
      >
        <path
          :d="`M${clamp(scale.at(l.value)) * WIDTH} 14V${HEIGHT - FOOT}`"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <path
          :transform="`translate(${clamp(scale.at(l.value)) * WIDTH} 2)`"
          d="M-6 0H6V9L0 15L-6 9z"
          fill="var(--tide)"
        />
        <rect
          :x="clamp(scale.at(l.value)) * WIDTH - 9"
          y="0"
          width="18"
          :height="HEIGHT - FOOT"
          fill="transparent"
        />
        <text
          :x="clamp(scale.at(l.value)) * WIDTH + (scale.at(l.value) > 0.72 ? -11 : 11)"
          :y="12 + i * 14"
          :text-anchor="scale.at(l.value) > 0.72 ? 'end' : 'start'"
        >
          {{ text(l.value) }} {{ l.words }}
        </text>
      </g>
    </svg>
    <p class="legend narrow">
      <span><i class="in" /> within: {{ sums.within }}</span>
      <span v-if="sums.newly > 0" class="new"><i class="hatch" /> newly outside: {{ sums.newly }}</span>
      <span v-if="sums.beyond > 0" class="out"
        ><i class="hatch" /> outside before, too: {{ sums.beyond }}</span
      >
      <span class="gap" /><span class="soft">drag a limit, or type · click a bar for its assets</span>
    </p>
  </div>
</template>

<style scoped>
.sounding svg {
  display: block;
  width: 100%;
  height: 232px;
  border: 1px solid var(--ink);
  background: var(--sheet);
  touch-action: none;
}
.bar {
  cursor: pointer;
}
.bar:hover rect:first-child {
  fill: var(--hair);
  fill-opacity: 0.5;
}
.pin {
  cursor: ew-resize;
  outline: none;
}
.pin:focus-visible path:first-child {
  stroke: var(--tide);
  stroke-width: 3;
}
text {
  font: 11px var(--mono);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
  user-select: none;
}
.tick text {
  fill: var(--soft);
}
.legend {
  display: flex;
  gap: 16px;
  margin-top: 6px;
  font-size: 12px;
}
.legend i {
  display: inline-block;
  width: 9px;
  height: 9px;
  background: var(--tide);
}
.new {
  color: var(--caution);
}
.out {
  color: var(--stop);
}
.new .hatch {
  background: repeating-linear-gradient(45deg, var(--caution) 0 1.5px, transparent 1.5px 4px);
}
.out .hatch {
  background: repeating-linear-gradient(45deg, var(--stop) 0 1.5px, transparent 1.5px 4px);
}
.gap {
  flex: 1;
}
</style>
