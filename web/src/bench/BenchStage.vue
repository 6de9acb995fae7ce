<script setup lang="ts">
import { computed, shallowRef, useTemplateRef, watch } from 'vue'
import type {
  AssetState,
  BenchTexture,
  Finding,
  RemedyOptions,
  SaveSizes,
  Station,
} from '@stern-gate/contract'
import { cellBytes, islandsOfTexture } from '@stern-gate/core/surfaces'
import type { BroughtFile } from '../api/droppedFiles'
import ClipBar from '../stages/ClipBar.vue'
import LevelErrorChart from '../stages/LevelErrorChart.vue'
import LevelsStage from '../stages/LevelsStage.vue'
import FilesStage from '../stages/FilesStage.vue'
import ModelStage from '../stages/ModelStage.vue'
import NamesStage from '../stages/NamesStage.vue'
import PickBar from '../stages/PickBar.vue'
import PaintBar from '../stages/PaintBar.vue'
import PivotBar from '../stages/PivotBar.vue'
import ScatterStage from '../stages/ScatterStage.vue'
import ScaleBar from '../stages/ScaleBar.vue'
import StageTable from '../stages/StageTable.vue'
import TextureStage from '../stages/TextureStage.vue'
import UvStage from '../stages/UvStage.vue'
import type { ColourChannel, ModelView, SurfaceMap } from '../stages/modelFrame'
import type { LightSettings } from '../stages/lightSettings'
import type { StageMark } from '../stages/stageMarks'
import type { TextureView } from '../stages/textureStage'
import type { TriedSurfaces } from '../stages/wornSurface'
import { useHandwork } from '../stores/handwork'
import type { StageKind } from './stageOfStation'
import { stationTable } from './stationTable'
import { channelOf, useMarks } from './useMarks'
import { useSwitches } from './useSwitches'

// The stage that belongs to a station, with the table under it where there is one
const props = defineProps<{
  stage: StageKind
  station: Station
  state: AssetState
  findings: readonly Finding[]
  chosen: Finding | null
  previewing: boolean
  badge: string
  texture: BenchTexture | null
  before: BenchTexture | null
  beforeState: AssetState | null
  beforeWord: string
  locked: boolean
  sizes: { personHeight: number; gridStep: number | null }
  assets: readonly { id: string; name: string }[]
  guest: AssetState | null
  query: Record<string, string | undefined>
  tried: TriedSurfaces
  light: LightSettings
  reference: { address: string; mode: 'beside' | 'behind' } | null
}>()
const handwork = useHandwork()
/** Triangles that are being picked. */
const picks = shallowRef<StageMark[]>([])
const islands = computed(() => {
  const bits = islandsOfTexture(props.state.mesh, props.texture?.uses ?? [])
  return bits && cellBytes(bits)
})
const emit = defineEmits<{
  query: [Record<string, string | undefined>]
  chooseTexture: [string]
  step: [remedy: string, options: RemedyOptions]
  supply: [BroughtFile[]]
  sizes: [SaveSizes]
  ask: [find: string]
  drawn: [model: string]
}>()

const firstViews: Partial<Record<Station, ModelView>> = { mesh: 'wire', slots: 'slots' }
const known: readonly string[] = [
  'shaded',
  'plain',
  'wire',
  'checker',
  'map',
  'slots',
  'colours',
] satisfies ModelView[]
const view = computed(() =>
  known.includes(props.query['view'] ?? '')
    ? (props.query['view'] as ModelView)
    : (firstViews[props.station] ?? 'shaded'),
)
const level = computed(() => Number(props.query['level'] ?? props.state.levels[0]?.level ?? 0))
// A finding shows on the sheet of its own slot, whichever was looked at before
watch(
  () => props.chosen,
  () => {
    if (props.query['slot'] !== undefined) emit('query', { slot: undefined })
  },
)
/** The slot that a finding speaks of. */
const slotOf = (f: Finding | null): string | null =>
  f?.place.kind === 'slot' ? f.place.slot : typeof f?.data['slot'] === 'string' ? f.data['slot'] : null
const channel = computed(() => Number(props.query['uv'] ?? channelOf(props.chosen ?? props.findings[0])))
const table = computed(() => stationTable(props.station, props.state))
const rowId = computed(() => (props.station === 'lods' ? String(level.value) : (props.query['row'] ?? null)))

const marks = useMarks(props, { view: () => view.value, channel: () => channel.value })

const over = computed(() => props.query['over'] === 'yes')
/** The asset that stands beside, by its finest level. */
const standing = computed(() =>
  props.guest?.model
    ? { model: props.guest.model, shown: props.guest.levels[0]?.nodes ?? [], over: over.value }
    : null,
)
const model = useTemplateRef('model')
const clips = computed(() =>
  props.station === 'mesh' && props.stage === 'model' ? (props.state.mesh?.file.clips ?? []) : [],
)
const clip = computed(() => (props.query['clip'] === undefined ? null : Number(props.query['clip'])))

/** Levels stand in a row, until one of them is looked at by itself. */
const inRow = computed(
  () =>
    props.station === 'lods' &&
    props.stage === 'model' &&
    props.state.levels.length > 1 &&
    props.query['view'] === undefined,
)
const isMany = computed(
  () => props.station === 'lods' && props.stage === 'model' && props.query['view'] === 'many',
)
const row = useSwitches(() => props.state)

function movePivot(options: RemedyOptions): void {
  handwork.end()
  emit('step', 'scale/pivot-at-points', options)
}
// Points that were begun are left with their station
watch(
  () => props.station,
  () => {
    if (handwork.now?.kind === 'pivot') handwork.end()
  },
)
function chooseRow(id: string): void {
  if (props.station === 'lods') emit('query', { level: id })
  else emit('query', { row: props.query['row'] === id ? undefined : id })
}
</script>

<template>
  <div class="place" :class="{ with: table || clips.length > 0 || inRow }">
    <FilesStage
      v-if="stage === 'files'"
      :state="state"
      :locked="locked"
      @supply="(files) => emit('supply', files)"
      :marked="
        chosen?.place.kind === 'file'
          ? chosen.place.file
          : chosen?.place.kind === 'texture'
            ? chosen.place.texture
            : null
      "
    />
    <NamesStage v-else-if="stage === 'names'" :state="state" :marked="chosen?.place ?? null" />
    <UvStage
      v-else-if="stage === 'uvs'"
      :state="state"
      :level="level"
      :channel="channel"
      :sheet-slot="query['slot'] ?? slotOf(chosen)"
      :marks="marks"
      :badge="badge"
      @sheet-slot="(name) => emit('query', { slot: name ?? '' })"
      @channel="(n) => emit('query', { uv: String(n) })"
      @level="(n) => emit('query', { level: String(n) })"
    />
    <LevelsStage
      v-else-if="inRow"
      :state="state"
      :switches="row.switches.value"
      :looked="row.looked.value"
      :badge="badge"
      @look="(i) => (row.looked.value = i)"
      @model="emit('query', { view: 'shaded' })"
      @many="emit('query', { view: 'many' })"
    />
    <ScatterStage
      v-else-if="isMany"
      :state="state"
      :switches="row.switches.value"
      :person-height="sizes.personHeight"
      :badge="badge"
      @row="emit('query', { view: undefined })"
      @model="emit('query', { view: 'shaded' })"
    />
    <ModelStage
      v-else-if="stage === 'model'"
      ref="model"
      :bones="clips.length > 0 && query['bones'] === 'yes'"
      :colour-channel="(query['colour'] ?? 'all') as ColourChannel"
      @colour="(c) => emit('query', { colour: c === 'all' ? undefined : c })"
      :state="state"
      :view="view"
      :level="level"
      :map="(query['map'] ?? 'basecolor') as SurfaceMap"
      :collision="station === 'collision'"
      :marks="picks.length > 0 ? picks : marks"
      :aids="station === 'scale'"
      :person-height="sizes.personHeight"
      :grid-step="sizes.gridStep"
      :guest="standing"
      :only="query['only'] ?? null"
      :row-too="station === 'lods' && state.levels.length > 1"
      @row="emit('query', { view: undefined })"
      :picking="handwork.now?.kind === 'pivot'"
      :many-too="station === 'lods'"
      @many="emit('query', { view: 'many' })"
      :variant="query['variant'] ?? null"
      @variant="(v: string | null) => emit('query', { variant: v ?? undefined })"
      :tried="tried"
      :light="light"
      :reference="reference"
      :lighting="query['lighting'] === 'yes'"
      @lighting="(on) => emit('query', { lighting: on ? 'yes' : undefined })"
      @drawn="(m) => emit('drawn', m)"
      :before="beforeState"
      :before-word="beforeWord"
      :divided="query['divider'] === 'yes'"
      @divide="(on) => emit('query', { divider: on ? 'yes' : undefined })"
      :badge="
        badge ||
        (query['divider'] === 'yes' && beforeState?.model && beforeState.model !== state.model
          ? 'output'
          : '')
      "
      @view="(v) => emit('query', { view: v })"
      @level="(n) => emit('query', { level: String(n) })"
      @map="(m) => emit('query', { map: m, view: 'map' })"
    >
      <template #light><slot name="light" /></template>
      <template #over="{ stage: lent, drawn, beside }">
        <PaintBar
          v-if="handwork.now?.kind === 'paint' && station === 'slots'"
          :key="JSON.stringify(handwork.now)"
          :stage="lent"
          :drawn="drawn"
          :what="handwork.now"
          :keeping="handwork.keeping"
          @keep="handwork.keepPaint"
          @end="handwork.end"
        />
        <PickBar
          v-if="handwork.now?.kind === 'pick' && station === 'slots'"
          :key="handwork.now.slot"
          :stage="lent"
          :drawn="drawn"
          :slot-name="handwork.now.slot"
          :names="(state.mesh?.slots ?? []).map((s) => s.name)"
          :keeping="handwork.keeping"
          @keep="handwork.keepPart"
          @end="handwork.end"
          @marks="(m) => (picks = m)"
        />
        <PivotBar
          v-if="handwork.now?.kind === 'pivot' && station === 'scale'"
          :stage="lent"
          :drawn="drawn"
          :shown="(state.levels.find((l) => l.level === level) ?? state.levels[0])?.nodes ?? []"
          :beside="beside?.over ? beside.shown : null"
          @keep="movePivot"
          @end="handwork.end"
          @marks="(m) => (picks = m)"
        />
      </template>
      <ScaleBar
        :person-height="sizes.personHeight"
        :grid-step="sizes.gridStep"
        :assets="assets"
        :guest="query['beside'] ?? null"
        :over="over"
        :picking="handwork.now?.kind === 'pivot'"
        :locked="locked"
        @pick="(on) => (on ? handwork.begin({ kind: 'pivot' }) : handwork.end())"
        @sizes="(s) => emit('sizes', s)"
        @ask="(find) => emit('ask', find)"
        @guest="(id) => emit('query', { beside: id ?? undefined })"
        @over="(on) => emit('query', { over: on ? 'yes' : undefined })"
      />
    </ModelStage>
    <TextureStage
      v-else
      :texture="texture"
      :before="before"
      :textures="state.textures"
      :view="(query['channel'] ?? 'all') as TextureView"
      :badge="badge || (before && before.sha256 !== texture?.sha256 ? 'output' : '')"
      :before-word="beforeWord"
      :islands="islands"
      :dims="query['islands'] === 'yes'"
      :mip="Number(query['mip'] ?? 0)"
      @dims="(on) => emit('query', { islands: on ? 'yes' : undefined })"
      @mip="(n) => emit('query', { mip: n > 0 ? String(n) : undefined })"
      @view="(v) => emit('query', { channel: v })"
      @choose="(name) => emit('chooseTexture', name)"
    />
    <ClipBar
      v-if="clips.length > 0"
      :clips="clips"
      :chosen="clip"
      :bones="query['bones'] === 'yes'"
      :has-bones="(state.mesh?.file.skins ?? 0) > 0"
      :locked="locked"
      @choose="(n) => emit('query', { clip: n === null ? undefined : String(n) })"
      @pose="(n, seconds) => model?.pose(n, seconds)"
      @bones="(on) => emit('query', { bones: on ? 'yes' : undefined })"
      @rename="(from, to) => emit('step', 'names/rename', { what: 'clip', from, to })"
      @loop="(name, loop) => emit('step', 'mesh/set-loop', { clip: name, loop })"
    />
    <LevelErrorChart
      v-if="inRow"
      :state="state"
      :switches="row.switches.value"
      :in-file="row.inFile.value"
      :moved="row.isMoved.value"
      :locked="locked"
      @look="(i) => (row.looked.value = i)"
      @move="row.move"
      @again="row.again"
      @write="emit('step', 'lods/set-switches', row.options.value)"
    />
    <StageTable
      v-else-if="table"
      :label="table.label"
      :columns="table.columns"
      :rows="table.rows"
      :chosen="rowId"
      @choose="chooseRow"
    />
  </div>
</template>

<style scoped>
.place {
  display: grid;
  grid-template-rows: minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.place.with {
  grid-template-rows: minmax(0, 1fr) minmax(0, max-content);
}
.place > :last-child:not(:first-child) {
  max-height: 196px;
}
</style>
