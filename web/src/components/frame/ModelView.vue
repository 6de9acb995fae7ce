<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { afterPaint } from '../../stages/afterPaint'
import ChartNeatline, { type Scale } from '../../stages/ChartNeatline.vue'
import type { ModelFrame } from '../../stages/modelFrame'
import type { StageMark } from '../../stages/stageMarks'
import type { LentStage } from '../../stages/stageRoom'
import StageTrouble from '../../stages/StageTrouble.vue'
import { useNight } from '../../theme/useNight'
import { troubleWords } from '../../words/troubleWords'

// A model with some of it marked; a click asks for the node under it
const props = defineProps<{
  model: string
  shown: readonly string[]
  marks: readonly StageMark[]
  label: string
}>()
const emit = defineEmits<{ pick: [node: string] }>()
const night = useNight()
const host = ref<HTMLElement | null>(null)
const scale = shallowRef<Scale | null>(null)
const trouble = ref('')
const drawn = ref('')
let stage: LentStage | null = null,
  watcher: ResizeObserver | null = null,
  pressed: { x: number; y: number } | null = null

const frame = computed<ModelFrame>(() => ({
  model: props.model,
  view: 'shaded',
  map: 'basecolor',
  colourChannel: 'all',
  channel: 0,
  slots: [],
  shown: props.shown,
  veiled: [],
  marks: props.marks,
  aids: false,
  bones: false,
  personHeight: 1.75,
  gridStep: null,
  only: null,
  variant: null,
  guest: null,
  background: night.value ? '#5a5a5a' : '#777777',
  before: null,
  divider: 0.5,
}))
async function redraw(): Promise<void> {
  if (!stage) return
  try {
    trouble.value = ''
    await stage.draw(frame.value)
    drawn.value = props.model
  } catch (error) {
    if ((error as Error).name !== 'AbortError') trouble.value = troubleWords(error)
  }
}
async function begin(): Promise<void> {
  const [{ lendModelStage }] = await Promise.all([import('../../stages/stageRoom'), afterPaint()])
  if (!host.value) return
  try {
    stage = lendModelStage(host.value, {
      onDrawn: (_, s) => {
        scale.value = { pxPerUnit: s.pxPerMetre, zeroX: s.zeroX, zeroY: s.zeroY, unit: 'm' }
      },
    })
  } catch (error) {
    trouble.value = `The browser gives no WebGL to draw with: ${troubleWords(error)}`
    return
  }
  stage.canvas.setAttribute('aria-label', props.label)
  watcher = new ResizeObserver(() => stage?.resize())
  watcher.observe(host.value)
  stage.resize()
  await redraw()
  if (stage?.canvas.isConnected) stage.canvas.dataset['ready'] = 'yes'
}
onMounted(begin)
const again = (): Promise<void> => (stage ? redraw() : begin())
watch(frame, redraw)
onBeforeUnmount(() => {
  watcher?.disconnect()
  stage?.giveBack()
  stage = null
})
const STILL = 4
function release(event: PointerEvent): void {
  const from = pressed
  pressed = null
  if (!from || !stage || Math.hypot(event.clientX - from.x, event.clientY - from.y) > STILL) return
  const box = stage.canvas.getBoundingClientRect()
  const hit = stage.pick(event.clientX - box.left, event.clientY - box.top)
  if (hit) emit('pick', hit.node)
}
</script>

<template>
  <ChartNeatline :scale="scale">
    <div
      ref="host"
      class="host"
      @pointerdown="pressed = { x: $event.clientX, y: $event.clientY }"
      @pointerup="release"
    >
      <div class="tools" role="toolbar" aria-label="View">
        <button @click="stage?.frameAll()">Whole</button>
      </div>
      <StageTrouble v-if="trouble" :text="trouble" :retry="true" @again="again" />
      <p v-else-if="drawn !== model" class="hud trouble" role="status">Reading the model …</p>
    </div>
  </ChartNeatline>
</template>

<style scoped src="../../stages/stage.css" />
