<script setup lang="ts">
import { computed, ref } from 'vue'
import { readSum } from '@stern-gate/core/sums'

// A number that takes sums and units, is dragged to change (Shift: fine) and goes back by a double click
const props = defineProps<{
  label: string
  name: string
  value: number | null
  min: number
  max: number
  reach: number
  unit: string
  own: boolean
  locked: boolean
  why: string
  /** What a value that is not own is taken from. */
  follows: string
}>()
const emit = defineEmits<{ try: [number]; keep: []; reset: [] }>()

/** Pixels of a drag over the whole reach; fine: eight times as many. */
const FULL_DRAG = 200,
  FINE = 8
const typed = ref<string | null>(null),
  wrong = ref(false)
const text = computed(() => (props.value === null ? '' : String(Number(props.value.toPrecision(4)))))
const least = computed(() => (props.min < 0 ? -props.reach : props.min))
const filled = computed(() =>
  props.value === null
    ? 0
    : Math.min(1, Math.max(0, (props.value - least.value) / (props.reach - least.value || 1))),
)
const within = (value: number): number => Math.min(props.max, Math.max(props.min, value))

let dragged: { x: number; value: number; moved: boolean } | null = null
function begin(event: PointerEvent): void {
  if (props.locked || event.button !== 0) return
  dragged = { x: event.clientX, value: props.value ?? least.value, moved: false }
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function move(event: PointerEvent): void {
  if (!dragged) return
  const step = event.clientX - dragged.x
  if (step === 0) return
  const size = (props.reach - least.value) / (FULL_DRAG * (event.shiftKey ? FINE : 1))
  dragged = { x: event.clientX, value: within(dragged.value + step * size), moved: true }
  emit('try', Number(dragged.value.toPrecision(6)))
}
function end(): void {
  const moved = dragged?.moved
  dragged = null
  if (moved) emit('keep')
}
function take(): void {
  if (typed.value === null) return
  const value = readSum(typed.value)
  wrong.value = value === null
  if (value === null) return
  typed.value = null
  if (value === props.value) return
  emit('try', within(value))
  emit('keep')
}
function nudge(event: KeyboardEvent, way: number): void {
  event.preventDefault()
  typed.value = null
  const size = (props.reach - least.value) / (event.shiftKey ? 1000 : 100)
  emit('try', Number(within((props.value ?? least.value) + way * size).toPrecision(6)))
}
function leave(): void {
  typed.value = null
  wrong.value = false
}
</script>

<template>
  <div class="row" :class="{ own, wrong }" :data-value="name">
    <span
      class="label"
      :title="
        why || `${own ? 'Set here' : follows}. Drag to change, Shift for fine; double click: ${follows}`
      "
      @pointerdown="begin"
      @pointermove="move"
      @pointerup="end"
      @pointercancel="end"
      @dblclick="!locked && emit('reset')"
      >{{ label }}<i class="bar"><i :style="{ width: `${filled * 100}%` }" /></i
    ></span>
    <input
      class="field mono"
      :value="typed ?? text"
      :aria-label="label"
      :aria-invalid="wrong"
      :disabled="locked"
      :placeholder="value === null ? 'none' : ''"
      inputmode="decimal"
      @input="typed = ($event.target as HTMLInputElement).value"
      @keydown.enter.stop="take"
      @keydown.up="nudge($event, 1)"
      @keydown.down="nudge($event, -1)"
      @keyup.up="emit('keep')"
      @keyup.down="emit('keep')"
      @keydown.esc.stop="leave"
      @blur="(take(), leave())"
    /><span class="unit soft">{{ unit }}</span>
  </div>
</template>

<style scoped src="./valueRow.css" />
<style scoped>
.row {
  grid-template-columns: minmax(0, 1fr) 74px 12px;
}
.label {
  position: relative;
  display: block;
  padding: 2px 4px 5px 0;
  cursor: ew-resize;
  touch-action: none;
}
.bar {
  position: absolute;
  left: 0;
  right: 4px;
  bottom: 1px;
  height: 2px;
  background: var(--hair);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--soft);
}
.own .bar i {
  background: var(--tide);
}
.unit {
  font: 400 11px/1 var(--text);
}
</style>
