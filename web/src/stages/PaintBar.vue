<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { StepData } from '@stern-gate/contract'
import type { Dab } from '@stern-gate/core/brush'
import { formatLength } from '@stern-gate/core/numbers'
import { troubleWords } from '../words/troubleWords'
import { beginPainting, type PaintedChannel, type PaintedValues, type PaintSession } from './paintSession'
import type { LentStage } from './stageRoom'
import { useStageKeys } from './useStageKeys'

// The brush: a channel of the vertex colours is painted on the model, and kept as a step
const props = defineProps<{
  stage: LentStage
  /** Address of the model that stands on the stage. */
  drawn: string
  what: PaintedChannel
  keeping: boolean
}>()
const emit = defineEmits<{ keep: [StepData]; end: [] }>()

const session = shallowRef<PaintSession | null>(null)
const trouble = ref(''),
  size = ref(0.08),
  strength = ref(1),
  hardness = ref(0.3),
  erases = ref(false),
  fills = ref(false),
  touched = ref(false)
/** Where the pointer is over the canvas, in pixels; null: elsewhere. */
const at = shallowRef<{ x: number; y: number } | null>(null)
const metres = computed(() => size.value * (session.value?.diagonal ?? 0))
let stroke = 0,
  painting = false,
  waiting: Pick<Dab, 'line' | 'stroke'> | null = null

const meets = (event: PointerEvent): boolean => {
  const hit = props.stage.pick(event.offsetX, event.offsetY)
  return (
    !!hit &&
    props.stage.model()?.meshes.find((m) => m.path === hit.node && m.primitive === hit.primitive)?.slot ===
      props.what.slot
  )
}
function down(event: PointerEvent): void {
  // Beside the model and with another button the model is turned, as ever
  if (event.button !== 0 || event.altKey || !session.value || !meets(event)) return
  event.stopImmediatePropagation()
  event.preventDefault()
  if (fills.value) {
    const line = lineOf(event)
    return void paint((on) => on.shell(line, erases.value ? 0 : 1))
  }
  painting = true
  stroke++
  props.stage.canvas.setPointerCapture(event.pointerId)
  touch(event)
}
function move(event: PointerEvent): void {
  at.value = { x: event.offsetX, y: event.offsetY }
  if (!painting) return
  event.stopImmediatePropagation()
  touch(event)
}
function up(event: PointerEvent): void {
  if (!painting) return
  painting = false
  event.stopImmediatePropagation()
}
const lineOf = (event: PointerEvent) => props.stage.lineAt(event.offsetX, event.offsetY)
/** What is under way: the next waits for it, so that nothing overtakes a stroke that is still being made. */
let going: Promise<void> = Promise.resolve()
function paint(work: (on: PaintSession) => Promise<void>): Promise<void> {
  touched.value = true
  going = going
    .then(() => (session.value ? work(session.value) : undefined))
    .catch((error: unknown) => void (trouble.value = troubleWords(error)))
  return going
}
/** One touch at a time; of those that come meanwhile the last is made. */
function touch(event: PointerEvent): void {
  const isUnderWay = waiting !== null
  waiting = { line: lineOf(event), stroke }
  if (isUnderWay) return
  void paint((on) => {
    const now = waiting!
    waiting = null
    return on.dab({
      ...now,
      radius: metres.value / 2,
      hardness: hardness.value,
      strength: strength.value,
      erases: erases.value,
    })
  })
}
async function keep(): Promise<void> {
  await going
  if (session.value) emit('keep', { kind: 'painted', parts: await session.value.parts() })
}
useStageKeys({
  '[': () => (size.value = Math.max(0.005, size.value * 0.8)),
  ']': () => (size.value = Math.min(0.5, size.value * 1.25)),
  e: () => (erases.value = !erases.value),
  'Ctrl z': () => void paint((on) => on.undo()),
  Escape: () => emit('end'),
})
const leave = (): void => void (at.value = null)
let isGone = false
onMounted(() => {
  const { canvas } = props.stage
  for (const [name, act] of handlers) canvas.addEventListener(name, act as EventListener, { capture: true })
  void begin()
})
async function begin(before?: PaintedValues): Promise<void> {
  const model = props.stage.model()
  try {
    const begun = model ? await beginPainting(model, props.what, props.stage.repaint, before) : null
    if (isGone || model !== props.stage.model()) return begun?.end(false)
    session.value = begun
    trouble.value = begun ? '' : 'Nothing of the model has this slot.'
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
/** Something else of the asset was changed meanwhile: what is painted goes on, on the model that was made. */
watch(
  () => props.drawn,
  async () => {
    await going
    const old = session.value
    session.value = null
    const values = touched.value ? await old?.values() : undefined
    old?.end(false)
    await begin(values)
  },
)
const handlers = [
  ['pointerdown', down],
  ['pointermove', move],
  ['pointerup', up],
  ['pointercancel', up],
  ['pointerleave', leave],
] as const
onBeforeUnmount(() => {
  isGone = true
  for (const [name, act] of handlers)
    props.stage.canvas.removeEventListener(name, act as EventListener, { capture: true })
  session.value?.end(props.keeping)
})
/** Pixels across, as large as the brush is at the depth of the pivot. */
const ring = computed(() => (at.value ? Math.max(6, metres.value * props.stage.pixelsAMetre()) : 0))
</script>

<template>
  <i
    v-if="at && session"
    class="ring"
    :class="{ erases }"
    :style="{ left: `${at.x}px`, top: `${at.y}px`, width: `${ring}px`, height: `${ring}px` }"
  />
  <div class="bar" role="toolbar" aria-label="Brush" data-paint :data-ready="session ? 'yes' : 'no'">
    <template v-if="session">
      <label title="[ and ]">
        Size
        <input
          v-model.number="size"
          type="range"
          min="0.005"
          max="0.5"
          step="0.005"
          aria-label="Size of the brush"
        />
        <span class="mono">{{ formatLength(metres) }}</span>
      </label>
      <label>
        Strength
        <input v-model.number="strength" type="range" min="0.05" max="1" step="0.05" aria-label="Strength" />
      </label>
      <label>
        Hardness
        <input v-model.number="hardness" type="range" min="0" max="1" step="0.05" aria-label="Hardness" />
      </label>
      <button :class="{ on: erases }" :aria-pressed="erases" title="E" data-erase @click="erases = !erases">
        Erase
      </button>
      <button
        :class="{ on: fills }"
        :aria-pressed="fills"
        title="A click fills all that hangs together with the place"
        data-shell
        @click="fills = !fills"
      >
        One piece
      </button>
      <button data-fill @click="paint((on) => on.fill(erases ? 0 : 1))">
        {{ erases ? 'Clear all' : 'Fill all' }}
      </button>
      <button title="Ctrl Z" data-undo @click="paint((on) => on.undo())">Undo</button>
    </template>
    <span v-else-if="!trouble">Getting ready …</span>
    <span v-if="trouble" role="alert">{{ trouble }}</span>
    <button class="first" :disabled="!session || !touched || keeping" data-keep-paint @click="keep">
      {{ keeping ? 'Keeping …' : 'Keep' }}
    </button>
    <button data-end-paint @click="emit('end')">Leave</button>
  </div>
</template>

<style scoped src="./bar.css" />
<style scoped>
.ring {
  position: absolute;
  border: 1.5px solid #fff;
  outline: 1px solid #0008;
  border-radius: 50%;
  transform: translate(-50%, -50%);
  pointer-events: none;
}
.ring.erases {
  border-style: dashed;
}
</style>
