<script setup lang="ts">
import { computed } from 'vue'
import type { Gauge, Level } from '@stern-gate/contract'
import { gaugeText } from '../../words/formats'

const props = defineProps<{ gauge: Gauge; level: Level }>()
const words = (v: number): string => gaugeText(v, props.gauge.unit)

/** Ends of the scale: limits and value with some room around. */
const ends = computed<[number, number]>(() => {
  const { value, min, max, stopAt, unit, scale } = props.gauge
  if (unit === 'sure') return [-1, 1]
  const all = [value, min, max, stopAt].filter((v): v is number => v !== undefined)
  if (scale === 'linear') return [0, Math.max(...all) * 1.12 || 1]
  const positive = all.filter((v) => v > 0)
  return [Math.min(...positive) / 1.8, Math.max(...positive) * 1.8]
})
const at = (v: number): number => {
  const [a, b] = ends.value
  const share =
    props.gauge.scale === 'log' ? Math.log(Math.max(v, a) / a) / Math.log(b / a) : (v - a) / (b - a)
  return Math.min(100, Math.max(0, share * 100))
}
const band = computed(() => {
  const from = props.gauge.min === undefined ? 0 : at(props.gauge.min),
    to = props.gauge.max === undefined ? 100 : at(props.gauge.max)
  return { left: `${from}%`, width: `${Math.max(0, to - from)}%` }
})
const limits = computed(() =>
  (props.gauge.unit === 'sure'
    ? [
        { v: -1, t: 'down' },
        { v: 0, t: 'either' },
        { v: 1, t: 'up' },
      ]
    : [props.gauge.min, props.gauge.max, props.gauge.stopAt]
        .filter((v): v is number => v !== undefined)
        .map((v) => ({ v, t: words(v) }))
  )
    // Where another number stands, no limit is written: the pin's own goes first
    .reduce<Written[]>(
      (kept, limit) => (kept.some((other) => overlap(other, limit)) ? kept : [...kept, limit]),
      props.gauge.unit === 'sure' ? [] : [{ v: props.gauge.value, t: words(props.gauge.value) }],
    )
    .slice(props.gauge.unit === 'sure' ? 0 : 1),
)
const pin = computed(() => at(props.gauge.value))
const side = (x: number): string => (x > 82 ? 'end' : x < 12 ? 'start' : 'middle')

interface Written {
  v: number
  t: string
}
/** Width of one letter in percent of the scale: 6.6 of about 240 pixels. */
const LETTER = 2.75
function extent({ v, t }: Written): [from: number, to: number] {
  const x = at(v),
    width = t.length * LETTER
  return side(x) === 'end'
    ? [x - width, x]
    : side(x) === 'start'
      ? [x, x + width]
      : [x - width / 2, x + width / 2]
}
function overlap(a: Written, b: Written): boolean {
  const [fromA, toA] = extent(a),
    [fromB, toB] = extent(b)
  return fromA < toB + LETTER && fromB < toA + LETTER
}
</script>

<template>
  <div class="gauge" role="img" :aria-label="`Measured ${words(gauge.value)}`" :class="level">
    <i class="track" /><i class="good" :style="band" /><i class="pin" :style="{ left: `${pin}%` }" />
    <span v-for="l in limits" :key="l.v" class="t" :class="side(at(l.v))" :style="{ left: `${at(l.v)}%` }">{{
      l.t
    }}</span>
    <span v-if="gauge.unit !== 'sure'" class="t own" :class="side(pin)" :style="{ left: `${pin}%` }">{{
      words(gauge.value)
    }}</span>
  </div>
</template>

<style scoped>
.gauge {
  margin: 9px 6px 2px 20px;
  height: 30px;
  position: relative;
  font: 400 11px var(--mono);
  color: var(--soft);
}
i {
  position: absolute;
  display: block;
}
.track {
  left: 0;
  right: 0;
  top: 6px;
  height: 4px;
  background: var(--hair);
}
.good {
  top: 6px;
  height: 4px;
  background: var(--clear);
  opacity: 0.75;
}
.pin {
  top: 1px;
  width: 2px;
  height: 14px;
  margin-left: -1px;
  background: var(--level);
}
.t {
  position: absolute;
  top: 16px;
  white-space: nowrap;
  transform: translateX(-50%);
}
.t.end {
  transform: translateX(-100%);
}
.t.start {
  transform: none;
}
.own {
  color: var(--level);
  font-weight: 500;
}
.stop {
  --level: var(--stop);
}
.caution {
  --level: var(--caution);
}
.note {
  --level: var(--note);
}
</style>
