<script setup lang="ts">
import { troubleWords } from '../words/troubleWords'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { useNight } from '../theme/useNight'
import { channelText } from '../words/formats'
import StageTrouble from './StageTrouble.vue'
import ChartNeatline, { type Scale } from './ChartNeatline.vue'
import type { StageModel } from './loadModel'
import { afterPaint } from './afterPaint'
import type { PickedTriangle } from './modelStage'
import type { LentStage } from './stageRoom'
import type { StageMark } from './stageMarks'
import type { SheetPart, UvSheetStage } from './uvSheetStage'

// The sheet at the left, the model in checker at the right; what is pointed at on one shows on the other
const props = defineProps<{
  state: AssetState
  level: number
  channel: number
  sheetSlot: string | null
  marks: readonly StageMark[]
  badge: string
}>()
const emit = defineEmits<{ channel: [number]; level: [number]; sheetSlot: [string | null] }>()
const night = useNight()
const sheetCanvas = ref<HTMLCanvasElement | null>(null),
  modelHost = ref<HTMLElement | null>(null),
  host = ref<HTMLElement | null>(null)
const scale = shallowRef<Scale | null>(null),
  modelScale = shallowRef<Scale | null>(null),
  trouble = ref('')
const parts = shallowRef<SheetPart[]>([])
const pointed = shallowRef<PickedTriangle | null>(null)
const underlay = ref(true)
let sheet: UvSheetStage | null = null,
  stage: LentStage | null = null,
  watcher: ResizeObserver | null = null
let helpers: typeof import('./sheetParts') | null = null,
  model: StageModel | null = null

const levels = computed(() => props.state.levels.map((l) => l.level))
const shown = computed(
  () => (props.state.levels.find((l) => l.level === props.level) ?? props.state.levels[0])?.nodes ?? [],
)
const channels = computed(() =>
  [
    ...new Set(
      (props.state.mesh?.nodes ?? [])
        .filter((n) => shown.value.includes(n.path))
        .flatMap((n) => n.primitives.flatMap((p) => p.uvChannels.map((c) => c.channel))),
    ),
  ].sort((a, b) => a - b),
)
/** Slots that the shown level uses: each has a sheet and pictures of its own. */
const shownSlots = computed(() => [
  ...new Set(
    (props.state.mesh?.nodes ?? [])
      .filter((n) => shown.value.includes(n.path))
      .flatMap((n) =>
        n.primitives.flatMap((p) => (p.uvChannels.length > 0 && p.slot !== null ? [p.slot] : [])),
      ),
  ),
])
const slot = computed(() =>
  props.sheetSlot !== null && shownSlots.value.includes(props.sheetSlot) ? props.sheetSlot : null,
)
const background = computed(() => (night.value ? '#5a5a5a' : '#777777'))
const slots = computed(() => (props.state.mesh?.slots ?? []).map((s) => s.name))
const faults = computed(
  () =>
    new Map(
      parts.value.map(
        (part) =>
          [
            part,
            props.marks.flatMap((m) =>
              m.kind === 'triangles' && m.node === part.node && m.primitive === part.primitive
                ? [m.triangles]
                : [],
            )[0] ?? new Uint32Array(0),
          ] as const,
      ),
    ),
)
const pointedMark = computed<StageMark[]>(() =>
  pointed.value
    ? [
        {
          kind: 'triangles',
          node: pointed.value.node,
          primitive: pointed.value.primitive,
          triangles: Uint32Array.of(pointed.value.triangle),
        },
      ]
    : [],
)

async function drawModel(): Promise<void> {
  if (!stage || !props.state.model) return
  try {
    trouble.value = ''
    await stage.draw({
      model: props.state.model,
      view: 'checker',
      map: 'basecolor',
      colourChannel: 'all',
      channel: props.channel,
      slots: slots.value,
      shown: shown.value,
      veiled: [],
      marks: [...props.marks, ...pointedMark.value],
      aids: false,
      bones: false,
      personHeight: 1.75,
      gridStep: null,
      only: null,
      variant: null,
      guest: null,
      background: background.value,
      before: null,
      divider: 0.5,
    })
    if (model !== stage.model() || !model) model = stage.model()
    layOut()
  } catch (error) {
    if ((error as Error).name !== 'AbortError') trouble.value = troubleWords(error)
  }
}
let laidFor = ''
function layOut(): void {
  if (!model || !helpers) return
  const key = [props.state.model, props.channel, slot.value ?? '', ...shown.value].join('|')
  if (key !== laidFor) {
    laidFor = key
    parts.value = helpers.sheetParts(model, shown.value, props.channel, slot.value)
  }
  drawSheet()
}
function drawSheet(): void {
  const target = pointed.value
  const part = target
    ? parts.value.find((p) => p.node === target.node && p.primitive === target.primitive)
    : undefined
  sheet?.draw({
    parts: parts.value,
    picture:
      underlay.value && props.channel === 0 && model && helpers
        ? helpers.sheetPicture(model, parts.value)
        : null,
    faults: faults.value,
    pointed: target && part ? { part, triangle: target.triangle } : null,
    background: background.value,
  })
}
onMounted(async () => {
  const [{ lendModelStage }, { createUvSheetStage }, found] = await Promise.all([
    import('./stageRoom'),
    import('./uvSheetStage'),
    import('./sheetParts'),
    afterPaint(),
  ])
  if (!sheetCanvas.value || !modelHost.value || !host.value) return
  helpers = found
  sheet = createUvSheetStage(sheetCanvas.value, (p) => {
    scale.value = { pxPerUnit: p.pxPerUnit, zeroX: p.zeroX, zeroY: p.zeroY, unit: 'sheet' }
  })
  stage = lendModelStage(modelHost.value, {
    onDrawn: (_, s) => {
      modelScale.value = { pxPerUnit: s.pxPerMetre, zeroX: s.zeroX, zeroY: s.zeroY, unit: 'm' }
    },
  })
  watcher = new ResizeObserver(() => {
    stage?.resize()
    sheet?.resize()
  })
  watcher.observe(host.value)
  stage.resize()
  sheet.resize()
  await drawModel()
  // The page may have gone on meanwhile
  if (sheetCanvas.value) sheetCanvas.value.dataset['ready'] = 'yes'
})
watch(
  () => [props.state.model, props.channel, props.level, props.marks, background.value] as const,
  drawModel,
)
watch([pointed, underlay, slot], () => void drawModel())
onBeforeUnmount(() => {
  watcher?.disconnect()
  stage?.giveBack()
  stage = null
  sheet?.dispose()
})
const onSheet = (event: PointerEvent): void => {
  if (event.buttons) return
  const hit = sheet?.pick(event.offsetX, event.offsetY)
  pointed.value = hit ? { node: hit.part.node, primitive: hit.part.primitive, triangle: hit.triangle } : null
}
const onModel = (event: PointerEvent): void => {
  if (!event.buttons && event.target === stage?.canvas)
    pointed.value = stage.pick(event.offsetX, event.offsetY) ?? null
}
</script>

<template>
  <div ref="host" class="pair">
    <ChartNeatline :scale="scale">
      <div class="host">
        <canvas
          ref="sheetCanvas"
          tabindex="0"
          :aria-label="`UV sheet of ${state.name}, ${channelText(channel)}`"
          @pointermove="onSheet"
          @pointerleave="pointed = null"
        />
        <div class="tools" role="toolbar" aria-label="UV channel">
          <button
            v-for="c in channels"
            :key="c"
            :class="{ on: c === channel }"
            :aria-pressed="c === channel"
            @click="emit('channel', c)"
          >
            {{ channelText(c) }}
          </button>
          <button :class="{ on: underlay }" :aria-pressed="underlay" @click="underlay = !underlay">
            Picture
          </button>
          <button @click="sheet?.fit()">Whole</button>
        </div>
        <select
          v-if="shownSlots.length > 1"
          class="hud field slots"
          aria-label="Sheet of which slot"
          :value="slot ?? ''"
          @change="emit('sheetSlot', ($event.target as HTMLSelectElement).value || null)"
        >
          <option value="">the sheets of all {{ shownSlots.length }} slots</option>
          <option v-for="name in shownSlots" :key="name" :value="name">{{ name }}</option>
        </select>
        <p v-if="channels.length === 0" class="hud trouble">There are no UVs to lay out.</p>
      </div>
    </ChartNeatline>
    <ChartNeatline :scale="modelScale">
      <div
        ref="modelHost"
        class="host"
        :aria-label="`Model of ${state.name} in checker`"
        @pointermove="onModel"
        @pointerleave="pointed = null"
      >
        <div class="tools" role="toolbar" aria-label="Level">
          <button
            v-for="n in levels.length > 1 ? levels : []"
            :key="n"
            :class="{ on: n === level }"
            :aria-pressed="n === level"
            @click="emit('level', n)"
          >
            LOD {{ n }}
          </button>
          <button @click="stage?.frameAll()">Whole</button>
        </div>
        <span v-if="pointed" class="hud read"
          >{{ pointed.node.split('/').at(-1) }} · triangle {{ pointed.triangle }}</span
        >
        <span v-if="badge" class="hud badge">{{ badge }}</span>
        <StageTrouble v-if="trouble" :text="trouble" retry @again="drawModel" />
      </div>
    </ChartNeatline>
  </div>
</template>

<style scoped src="./stage.css" />
<style scoped>
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  min-height: 0;
}
.slots {
  left: 8px;
  bottom: 8px;
  max-width: calc(100% - 16px);
}
</style>
