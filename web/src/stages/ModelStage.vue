<script setup lang="ts">
import { troubleWords } from '../words/troubleWords'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { formatLength } from '@stern-gate/core/numbers'
import { afterPaint } from './afterPaint'
import { useNight } from '../theme/useNight'
import ChartNeatline, { type Scale } from './ChartNeatline.vue'
import ClearanceBar from './ClearanceBar.vue'
import DropTest from './DropTest.vue'
import type { LightSettings } from './lightSettings'
import type { ColourChannel, ModelFrame, ModelView, ShownParts, SurfaceMap } from './modelFrame'
import type { PlacedLabel } from './modelStage'
import type { LentStage } from './stageRoom'
import ReferencePicture from './ReferencePicture.vue'
import StageDivider from './StageDivider.vue'
import StageTrouble from './StageTrouble.vue'
import type { StageMark } from './stageMarks'
import type { TriedSurfaces } from './wornSurface'

const props = defineProps<{
  state: AssetState
  view: ModelView
  level: number
  collision: boolean
  marks: readonly StageMark[]
  map: SurfaceMap
  aids: boolean
  personHeight: number
  badge: string
  bones: boolean
  colourChannel: ColourChannel
  before: AssetState | null
  beforeWord: string
  divided: boolean
  gridStep: number | null
  guest: { model: string; shown: readonly string[]; over: boolean } | null
  only: string | null
  variant: string | null
  tried: TriedSurfaces
  light: LightSettings
  /** Whether the panel of the light is open. */
  lighting: boolean
  /** Whether the levels can be seen in a row, too. */
  rowToo: boolean
  /** Whether many copies can be seen, too. */
  manyToo: boolean
  /** A picture that it is held against. */
  reference: { address: string; mode: 'beside' | 'behind' } | null
  /** Whether something is picked on it: the tools for that stand at its foot. */
  picking: boolean
}>()
const emit = defineEmits<{
  view: [ModelView]
  level: [number]
  map: [SurfaceMap]
  colour: [ColourChannel]
  divide: [boolean]
  drawn: [model: string]
  lighting: [boolean]
  variant: [string | null]
  row: []
  many: []
}>()
const night = useNight()
const host = ref<HTMLElement | null>(null)
const labels = shallowRef<PlacedLabel[]>([])
const scale = shallowRef<Scale | null>(null)
const trouble = ref('')
const divider = ref(0.5)
/** Address of the model that stands on the stage. */
const drawn = ref('')
/** What stands beside it or at its origin, as it was drawn; null: nothing. */
const drawnBeside = shallowRef<ModelFrame['guest']>(null)
/** The same for what stands over the stage. */
const lent = shallowRef<LentStage | null>(null)
let stage: LentStage | null = null,
  watcher: ResizeObserver | null = null

const views: [ModelView, string][] = [
  ['shaded', 'Shaded'],
  ['plain', 'Plain'],
  ['wire', 'Wire'],
  ['checker', 'Checker'],
  ['map', 'One map'],
  ['slots', 'Slots'],
  ['colours', 'Vertex colour'],
]
const maps: [SurfaceMap, string][] = [
  ['basecolor', 'Base colour'],
  ['normal', 'Normal'],
  ['occlusion', 'Occlusion'],
  ['roughness', 'Roughness'],
  ['metallic', 'Metallic'],
  ['emissive', 'Emissive'],
]
const colourChannels: [ColourChannel, string][] = [
  ['all', 'All'],
  ['R', 'R'],
  ['G', 'G'],
  ['B', 'B'],
  ['A', 'A'],
]
const hasColours = computed(() =>
  (props.state.mesh?.nodes ?? []).some((n) => n.primitives.some((p) => p.colours.length > 0)),
)
const offered = computed(() => views.filter(([key]) => key !== 'colours' || hasColours.value))
const variants = computed(() => (props.state.mesh?.variants ?? []).map((v) => v.name))
const levels = computed(() => props.state.levels.map((l) => l.level))
const background = computed(() => {
  const { grey } = props.light
  if (grey !== null) return `rgb(${grey}, ${grey}, ${grey})`
  return night.value ? '#5a5a5a' : '#777777'
})
/** The colour under the pointer, as it is drawn. */
const under = ref('')
function look(event: PointerEvent): void {
  if (!stage || event.buttons !== 0 || event.target !== stage.canvas) return void (under.value = '')
  const rgb = stage.colourAt(event.offsetX, event.offsetY)
  under.value = `${rgb.join(' ')}  #${rgb.map((v) => v.toString(16).padStart(2, '0')).join('')}`
}
/** What was measured between the model and what stands at its origin. */
const aidMarks = shallowRef<StageMark[]>([])
/** What there is to stand beside: another model than the one on the stage. */
const other = computed(() =>
  props.before?.model && props.before.model !== props.state.model ? props.before : null,
)
const partsOf = (state: AssetState): ShownParts => ({
  shown: (state.levels.find((l) => l.level === props.level) ?? state.levels[0])?.nodes ?? [],
  veiled: props.collision ? state.collision : [],
})
const frame = computed<ModelFrame | null>(() => {
  if (!props.state.model) return null
  return {
    model: props.state.model,
    view: props.view,
    ...partsOf(props.state),
    divider: divider.value,
    before: props.divided && other.value ? { model: other.value.model!, ...partsOf(other.value) } : null,
    only: props.only,
    variant: props.variant,
    marks: aidMarks.value.length > 0 ? [...props.marks, ...aidMarks.value] : props.marks,
    map: props.map,
    channel: 0,
    slots: (props.state.mesh?.slots ?? []).map((s) => s.name),
    aids: props.aids,
    bones: props.bones,
    colourChannel: props.colourChannel,
    personHeight: props.personHeight,
    gridStep: props.gridStep,
    guest: props.aids ? props.guest : null,
    background: props.reference?.mode === 'behind' ? null : background.value,
  }
})

/** Cameras that came with the model; a scene with dozens of them fills no bar. */
const ownViews = shallowRef<string[]>([])
const MOST_VIEWS = 4

/** Labels stay below the two rows of tools. */
const UNDER_BAR = 80

/** The pose that is wanted, for a model that is still on its way, too. */
const posed: { clip: number | null; seconds: number } = { clip: null, seconds: 0 }
defineExpose({
  pose(clip: number | null, seconds: number): void {
    Object.assign(posed, { clip, seconds })
    stage?.pose(clip, seconds)
  },
})
async function redraw(): Promise<void> {
  if (!stage || !frame.value) return
  const { model, guest } = frame.value
  try {
    trouble.value = ''
    stage.light(props.light)
    stage.trySurfaces(props.tried)
    await stage.draw(frame.value)
    drawn.value = model
    drawnBeside.value = guest
    stage.canvas.dataset['model'] = model
    emit('drawn', model)
    ownViews.value = (stage.model()?.views ?? []).slice(0, MOST_VIEWS).map((v) => v.name)
    stage.pose(posed.clip, posed.seconds)
  } catch (error) {
    if ((error as Error).name !== 'AbortError') trouble.value = troubleWords(error)
  }
}
const label = computed(() => `Model of ${props.state.name}, ${props.view}`)
async function begin(): Promise<void> {
  // Findings and facts stand on the screen before WebGL takes the page up; its code comes meanwhile
  const [{ lendModelStage }] = await Promise.all([import('./stageRoom'), afterPaint()])
  if (!host.value) return
  trouble.value = ''
  try {
    stage = lendModelStage(host.value, {
      onDrawn: (placed, s) => {
        labels.value = placed
        scale.value = { pxPerUnit: s.pxPerMetre, zeroX: s.zeroX, zeroY: s.zeroY, unit: 'm' }
      },
    })
  } catch (error) {
    trouble.value = `The browser gives no WebGL to draw with: ${troubleWords(error)}`
    return
  }
  lent.value = stage
  stage.canvas.setAttribute('aria-label', label.value)
  watcher = new ResizeObserver(() => stage?.resize())
  watcher.observe(host.value)
  stage.resize()
  await redraw()
  // The page may have gone on meanwhile
  if (stage?.canvas.isConnected) stage.canvas.dataset['ready'] = 'yes'
}
onMounted(begin)
const again = (): Promise<void> => (stage ? redraw() : begin())
watch(label, (text) => stage?.canvas.setAttribute('aria-label', text))
watch(frame, redraw)
watch(
  () => props.light,
  (settings) => stage?.light(settings),
)
watch(
  () => props.tried,
  (tried) => stage?.trySurfaces(tried),
)
onBeforeUnmount(() => {
  watcher?.disconnect()
  lent.value = null
  stage?.giveBack()
  stage = null
})
</script>

<template>
  <ChartNeatline :scale="scale">
    <div ref="host" class="host" @pointermove="look" @pointerleave="under = ''">
      <ReferencePicture
        v-if="reference && !frame?.before"
        :address="reference.address"
        :mode="reference.mode"
        :background="background"
      />
      <div class="tools" role="toolbar" aria-label="View">
        <button
          v-for="[key, word] in offered"
          :key="key"
          :class="{ on: key === view }"
          :aria-pressed="key === view"
          @click="emit('view', key)"
        >
          {{ word }}
        </button>
        <button
          v-for="(n, i) in levels.length > 1 ? levels : []"
          :key="`l${n}`"
          :class="{ on: n === level, first: i === 0 }"
          :aria-pressed="n === level"
          :aria-label="`LOD ${n}`"
          :title="`LOD ${n}`"
          @click="emit('level', n)"
        >
          {{ i === 0 ? `LOD ${n}` : n }}
        </button>
        <button v-if="rowToo" data-row @click="emit('row')">Row</button>
        <button v-if="manyToo" data-many @click="emit('many')">Many</button>
        <button @click="stage?.frameAll()">Whole</button>
        <button
          :class="{ on: lighting }"
          :aria-pressed="lighting"
          data-light
          @click="emit('lighting', !lighting)"
        >
          Light
        </button>
        <select
          v-if="variants.length > 0"
          class="variants"
          :value="variant ?? ''"
          aria-label="Variant of the file that is shown"
          data-variant
          @change="emit('variant', ($event.target as HTMLSelectElement).value || null)"
        >
          <option value="">as it is</option>
          <option v-for="v in variants" :key="v" :value="v">{{ v }}</option>
        </select>
        <button
          v-for="(name, i) in ownViews"
          :key="`v${i}`"
          :title="`Look through the camera ${name} that came with the file`"
          :data-view="name"
          @click="stage?.lookThrough(i)"
        >
          {{ name.slice(0, 18) }}
        </button>
        <button
          v-if="other"
          class="first"
          :class="{ on: divided }"
          :aria-pressed="divided"
          :title="`What is ${beforeWord === 'now' ? 'there now' : 'the source'} left of a divider (D)`"
          @click="emit('divide', !divided)"
        >
          Before ‹ › after
        </button>
      </div>
      <slot v-if="aids && view !== 'map' && view !== 'colours'" />
      <div v-if="view === 'map'" class="tools second" role="toolbar" aria-label="Map">
        <button
          v-for="[key, word] in maps"
          :key="key"
          :class="{ on: key === map }"
          :aria-pressed="key === map"
          @click="emit('map', key)"
        >
          {{ word }}
        </button>
      </div>
      <div
        v-if="view === 'colours'"
        class="tools second"
        role="toolbar"
        aria-label="Channel of the vertex colours"
      >
        <button
          v-for="[key, word] in colourChannels"
          :key="key"
          :class="{ on: key === colourChannel }"
          :aria-pressed="key === colourChannel"
          @click="emit('colour', key)"
        >
          {{ word }}
        </button>
      </div>
      <span
        v-for="l in labels"
        :key="l.what"
        class="hud label"
        :style="{ left: `${l.x}px`, top: `${Math.max(l.y, UNDER_BAR)}px` }"
        >{{ formatLength(l.metres) }}</span
      >
      <slot v-if="lighting" name="light" />
      <span v-if="under" class="hud under mono">{{ under }}</span>
      <StageDivider v-if="frame?.before" :at="divider" :word="beforeWord" @move="(at) => (divider = at)" />
      <ClearanceBar
        v-if="aids && guest?.over && !picking && lent && drawn === state.model"
        :stage="lent"
        :shown="frame?.shown ?? []"
        :guest="guest"
        @marks="(m) => (aidMarks = m)"
      />
      <DropTest v-if="collision && lent && drawn === state.model" :stage="lent" :state="state" />
      <slot v-if="lent && drawn" name="over" :stage="lent" :drawn="drawn" :beside="drawnBeside" />
      <span v-if="badge" class="hud badge">{{ badge }}</span>
      <StageTrouble
        v-if="trouble || !state.model"
        :text="trouble || 'There is no geometry to show.'"
        :retry="trouble !== ''"
        @again="again"
      />
      <p v-else-if="drawn !== state.model" class="hud trouble" role="status">Reading the model …</p>
    </div>
  </ChartNeatline>
</template>

<style scoped src="./stage.css" />
