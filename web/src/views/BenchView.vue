<script setup lang="ts">
import { computed, defineAsyncComponent, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import {
  counts,
  MOST_STEPS,
  stations,
  type BenchTexture,
  type Finding,
  type RecipeStep,
  type RemedyOptions,
  type SaveSizes,
  type Station,
} from '@stern-gate/contract'
import BenchStage from '../bench/BenchStage.vue'
import { stageOfStation } from '../bench/stageOfStation'
import { keysOfOneStation, stageKeys } from '../bench/stageKeys'
import type { StepByHand } from '../bench/stepByHand'
import BenchHeader from '../components/bench/BenchHeader.vue'
import FactsPanel from '../components/bench/FactsPanel.vue'
import FindingsAside from '../components/bench/FindingsAside.vue'
import RecipeStrip from '../components/bench/RecipeStrip.vue'
import LightPanel from '../components/light/LightPanel.vue'
import AsideTabs from '../components/bench/AsideTabs.vue'
import FormatsPanel from '../components/compression/FormatsPanel.vue'
import { useEncodings } from '../components/compression/useEncodings'
import { withAddedLooks } from '../stages/addedLooks'
import SurfacePanel from '../components/slots/SurfacePanel.vue'
import { useSurface } from '../components/slots/useSurface'
import StationRail from '../components/bench/StationRail.vue'
import { useBench, withOptions, withStep } from '../stores/bench'
import { useLight } from '../stores/light'
import { useProject } from '../stores/project'
import { useUploads } from '../stores/uploads'
import type { BroughtFile } from '../api/droppedFiles'
import { useFaults } from '../stores/faults'
import { useGuest } from '../bench/useGuest'
import { useBenchKeys } from '../bench/useBenchKeys'

const route = useRoute()
const router = useRouter()
const project = useProject()
const bench = useBench()
const light = useLight()
const faults = useFaults()
const factsOpen = ref(true)
// Comes when it is asked for
const StepPicker = defineAsyncComponent(() => import('../components/bench/StepPicker.vue'))
/** The step that is put together in the place of the findings: a new one, or one that is there. */
const stepping = shallowRef<{ step: RecipeStep | null; draft?: StepByHand } | null>(null)

const query = (key: string): string | null => (typeof route.query[key] === 'string' ? route.query[key] : null)
const setQuery = (change: Record<string, string | undefined>): void => {
  void router.replace({ params: route.params, query: { ...route.query, ...change } })
}
const assetId = computed(() => String(route.params['asset']))
const version = computed(() => (query('version') === null ? null : Number(query('version'))))
const detail = computed(() => bench.detail)
const judged = computed(() => bench.judged)
const shown = computed(() => bench.shown)

watch([assetId, version], ([id, v]) => void bench.load(id, v), { immediate: true })
/** Something was told of this asset while a change of one's own was under way. */
let missed = false
const leave = project.onEvent((event) => {
  if (event.kind !== 'asset' || event.asset !== assetId.value) return
  if (bench.busy) missed = true
  else void bench.load(assetId.value, version.value)
})
watch(
  () => bench.busy,
  (busy) => {
    if (busy || !missed) return
    missed = false
    void bench.load(assetId.value, version.value)
  },
)
onBeforeUnmount(() => {
  leave()
  bench.close()
})
watch(
  () => detail.value?.output.name,
  (name) => {
    if (name) document.title = `${name} · Stern Gate`
  },
)

/** The station of the address; without one the first that has findings. */
const station = computed<Station>(() => {
  const asked = route.params['station']
  return (
    stations.find((s) => s === asked) ??
    stations.find((s) => (judged.value?.tally[s].count ?? 0) > 0) ??
    'files'
  )
})
const go = (s: Station): void => {
  void router.replace({
    params: { ...route.params, station: s },
    query: { ...route.query, ...Object.fromEntries(keysOfOneStation.map((key) => [key, undefined])) },
  })
}

const found = computed(() => (judged.value?.findings ?? []).filter((f) => f.station === station.value))
const findings = computed(() => found.value.filter(counts))
const waivedHere = computed(() => found.value.filter((f) => !counts(f)))
const mending = ref(false)
const MendDialog = defineAsyncComponent(() => import('../components/mending/MendDialog.vue'))
/** Steps that the recipe still takes. */
const room = computed(() => MOST_STEPS - (detail.value?.recipe.steps.length ?? 0))
const chosen = computed<Finding | null>(
  () => found.value.find((f) => f.fingerprint === query('finding')) ?? null,
)
const choose = (f: Finding): void => {
  const same = chosen.value?.fingerprint === f.fingerprint
  void router.replace({
    params: { ...route.params, station: f.station },
    query: {
      ...route.query,
      finding: same ? undefined : f.fingerprint,
      texture: f.place.kind === 'texture' ? f.place.texture : route.query['texture'],
    },
  })
}
const locked = computed(
  () =>
    bench.side === 'source' ||
    (version.value !== null && version.value !== detail.value?.versions.at(-1)?.number),
)

// The stage
const stage = computed(() => stageOfStation(station.value, detail.value?.kind ?? 'mesh'))
const stageQuery = computed(() => Object.fromEntries(stageKeys.map((key) => [key, query(key) ?? undefined])))
const badge = computed(() =>
  bench.preview
    ? 'preview'
    : bench.previewing
      ? 'making the preview …'
      : bench.side === 'source' && (detail.value?.recipe.steps.length ?? 0) > 0
        ? 'source'
        : surfaces.asKept.value && station.value === 'slots'
          ? 'as the target draws it'
          : '',
)

const sameTexture = (
  list: readonly BenchTexture[],
  wanted: BenchTexture,
  index: number,
): BenchTexture | null =>
  list.find((t) => t.name === wanted.name) ?? (list[index]?.role === wanted.role ? list[index] : null) ?? null
const textureIndex = computed(() => {
  const list = judged.value?.textures ?? []
  const wanted = chosen.value?.place.kind === 'texture' ? chosen.value.place.texture : query('texture')
  const named = list.findIndex((t) => t.name === wanted)
  if (named >= 0) return named
  const faulty = findings.value.flatMap((f) => (f.place.kind === 'texture' ? [f.place.texture] : []))[0]
  return Math.max(
    0,
    list.findIndex((t) => t.name === faulty),
  )
})
const texture = computed(() => shown.value?.textures[textureIndex.value] ?? null)
/** While a preview shows, what is there now stands left of the divider; else what arrived. */
const beforeState = computed(() =>
  bench.preview ? judged.value : bench.side === 'output' ? (detail.value?.source ?? null) : null,
)
const before = computed(() => {
  const from = beforeState.value
  return texture.value && from ? sameTexture(from.textures, texture.value, textureIndex.value) : null
})
/** The texture in the formats that it was encoded to, one of which may stand beside its source. */
const encodings = useEncodings(() =>
  station.value === 'compression' && !bench.preview ? texture.value : null,
)
const encoded = computed(() => encodings.onDesk.value)
const endStep = (): void => {
  stepping.value = null
  bench.endPreview()
}
const recipeWith = (remedy: string, options: RemedyOptions) =>
  stepping.value?.step
    ? withOptions(detail.value!.recipe, stepping.value.step.id, options)
    : withStep(detail.value!.recipe, 'own', { remedy, options })
async function addStep(remedy: string, options: RemedyOptions): Promise<void> {
  const recipe = recipeWith(remedy, options)
  endStep()
  await bench.keep(recipe)
}
watch([assetId, locked], endStep)
/** Files that did not come, at the places where they are asked for: they make the next version. */
const uploads = useUploads()
const supply = (files: BroughtFile[]): void => {
  void uploads.complete(assetId.value, files)
}
/** Another asset that stands beside this one at Scale. */
const {
  others,
  guest,
  ask: askAssets,
} = useGuest(
  () => (station.value === 'scale' ? query('beside') : null),
  () => assetId.value,
)
const saveSizes = (sizes: SaveSizes): void => {
  void project.setSizes(sizes).catch(faults.put)
}
/** Surfaces of slots that are being set, and the stage that shows them. */
const surfaces = useSurface()
const worn = computed(() =>
  withAddedLooks(bench.preview ? new Map() : surfaces.tried.value, shown.value, surfaces.asKept.value),
)
const showSurfaces = (): void => {
  if (query('view') !== 'shaded' && query('view') !== 'wire') setQuery({ view: 'shaded' })
}
const facts = computed(() => ({
  station: station.value,
  state: shown.value!,
  texture: texture.value,
  side: bench.preview ? ('preview' as const) : bench.side,
}))
const back = (): void => {
  void router.push({ name: 'arrivals', params: { project: String(route.params['project']) } })
}

useBenchKeys({
  station: () => station.value,
  finding: () => chosen.value,
  all: () => (judged.value?.findings ?? []).filter(counts),
  count: (s) => judged.value?.tally[s].count ?? 0,
  go,
  choose,
  back,
  undo: () => {
    if (!locked.value) void bench.undo()
  },
  flip: () => {
    bench.side = bench.side === 'source' ? 'output' : 'source'
  },
  divide: () => setQuery({ divider: query('divider') === 'yes' ? undefined : 'yes' }),
  variant: (by) => {
    const names = [undefined, ...(shown.value?.mesh?.variants ?? []).map((one) => one.name)]
    const at = names.indexOf(query('variant') ?? undefined)
    setQuery({ variant: names[(at + by + names.length) % names.length] })
  },
  add: () => {
    if (!locked.value) stepping.value = { step: null }
  },
  fold: () => {
    factsOpen.value = !factsOpen.value
  },
  mend: () => {
    if (!locked.value) mending.value = true
  },
})
</script>

<template>
  <div v-if="detail && judged && shown" class="bench" :class="{ wide: !factsOpen }">
    <MendDialog v-if="mending" :assets="[detail.id]" :of="detail.name" @close="mending = false" />
    <BenchHeader
      :detail="detail"
      :judged="judged"
      @version="(version) => setQuery({ version, finding: undefined })"
    />
    <StationRail :tally="judged.tally" :current="station" @go="go" />
    <StepPicker
      v-if="stepping"
      :key="stepping.step?.id ?? JSON.stringify(stepping.draft)"
      :state="judged"
      :station="station"
      :step="stepping.step"
      :draft="stepping.draft ?? null"
      :busy="bench.busy"
      :previewing="bench.preview !== null"
      @close="endStep"
      @leave="bench.endPreview()"
      @preview="(remedy, options) => bench.showRecipe(recipeWith(remedy, options))"
      @add="addStep"
    />
    <FindingsAside
      v-else
      :detail="detail"
      :judged="judged"
      :station="station"
      :findings="findings"
      :waived="waivedHere"
      :chosen="chosen"
      :locked="locked"
      :room="room"
      @choose="choose"
      @by-hand="(draft) => (stepping = { step: null, draft })"
    />
    <BenchStage
      :stage="stage"
      :station="station"
      :state="shown"
      :findings="findings"
      :chosen="chosen"
      :previewing="bench.preview !== null"
      :badge="encoded ? encodings.chosen.value! : badge"
      :sizes="{ personHeight: project.open?.personHeight ?? 1.75, gridStep: project.open?.gridStep ?? null }"
      :assets="others"
      :guest="guest"
      @sizes="saveSizes"
      @ask="askAssets"
      :texture="encoded ?? texture"
      :before="encoded ? texture : before"
      :before-state="beforeState"
      :before-word="encoded ? 'as it is' : bench.preview ? 'now' : 'source'"
      :locked="locked || bench.busy"
      :tried="worn"
      :light="light.settings"
      :reference="light.reference"
      :query="stageQuery"
      @drawn="surfaces.drawn"
      @query="setQuery"
      @step="addStep"
      @supply="supply"
      @choose-texture="(name) => setQuery({ texture: name, finding: undefined })"
    >
      <template #light>
        <LightPanel
          :model-value="light.settings"
          :own-name="light.ownName"
          :trouble="light.trouble"
          :reference="light.reference"
          @update:model-value="light.set"
          @surrounding="light.bringSurrounding"
          @reference="light.setReference"
          @reference-mode="light.setReferenceMode"
          @close="setQuery({ lighting: undefined })"
        />
      </template>
    </BenchStage>
    <AsideTabs v-if="factsOpen && station === 'slots' && shown.mesh" title="Surface">
      <SurfacePanel
        :state="shown"
        :slot-name="query('row')"
        :alone="query('only') !== null"
        :locked="locked"
        :surfaces="surfaces"
        :target-title="judged.memory.find((m) => m.target === detail?.target)?.title ?? detail.target"
        @choose="(row) => setQuery({ row, only: query('only') === null ? undefined : row })"
        @alone="(on) => setQuery({ only: on ? (query('row') ?? shown?.mesh?.slots?.[0]?.name) : undefined })"
        @touch="showSurfaces"
        @step="addStep"
      />
      <template #facts><FactsPanel v-bind="facts" /></template>
    </AsideTabs>
    <AsideTabs v-else-if="factsOpen && station === 'compression'" title="Formats">
      <FormatsPanel :texture="texture" :encodings="encodings" :locked="locked" @step="addStep" />
      <template #facts><FactsPanel v-bind="facts" /></template>
    </AsideTabs>
    <FactsPanel v-else-if="factsOpen" v-bind="facts" />
    <RecipeStrip
      class="strip"
      :detail="detail"
      :side="bench.side"
      :busy="bench.busy"
      :locked="locked"
      @keep="bench.keep"
      @undo="bench.undo"
      @add="stepping = { step: null }"
      @edit="(step) => (stepping = { step })"
      @side="(s) => (bench.side = s)"
    />
  </div>
  <div v-else class="waiting soft">Fetching the asset …</div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template: 40px 61px minmax(0, 1fr) 64px / 316px minmax(0, 1fr) 268px;
  min-height: 0;
}
.bench.wide {
  grid-template-columns: 316px minmax(0, 1fr);
}
.bench > :deep(.rail),
.strip {
  grid-column: 1 / -1;
}
aside {
  padding: 10px 12px;
  overflow: auto;
  min-width: 0;
}
.findings {
  border-right: 1px solid var(--line);
}
.waiting {
  display: grid;
  place-items: center;
}
</style>
