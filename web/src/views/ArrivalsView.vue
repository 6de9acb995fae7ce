<script setup lang="ts">
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { NDropdown, NInput } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { stations, stationTitles, type Delivery, type Station } from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core/numbers'
import { chosenFiles } from '../api/droppedFiles'
import AssetHeads from '../components/lists/AssetHeads.vue'
import BulkBar from '../components/lists/BulkBar.vue'
import DeliveryLine from '../components/arrivals/DeliveryLine.vue'
import IntakeOffer from '../components/arrivals/IntakeOffer.vue'
import WhatCame from '../components/arrivals/WhatCame.vue'
import RefusedFiles from '../components/arrivals/RefusedFiles.vue'
import LibraryList from '../components/lists/LibraryList.vue'
import { isTyping, useWindowKey } from '../keys/useWindowKey'
import { useArrivals } from '../stores/arrivals'
import { useLibrary } from '../stores/library'
import { useIntake } from '../stores/intake'
import { useBulk } from '../stores/bulk'
import { useProject } from '../stores/project'
import { useUploads } from '../stores/uploads'

const route = useRoute()
const router = useRouter()
const project = useProject()
const arrivals = useArrivals()
const library = useLibrary()
const uploads = useUploads()
const bulk = useBulk()
const intake = useIntake()
// Comes when it is asked for
const IntakePresets = defineAsyncComponent(() => import('../components/arrivals/IntakePresets.vue'))
const MendDialog = defineAsyncComponent(() => import('../components/mending/MendDialog.vue'))
const presetsOpen = ref(false)
const mending = ref(false)

const picker = ref<HTMLInputElement | null>(null),
  folderPicker = ref<HTMLInputElement | null>(null)
const finder = ref<InstanceType<typeof NInput> | null>(null)
const putAway = ref<Set<string>>(new Set())
const text = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
const setQuery = (change: Record<string, string | undefined>): void => {
  void router.replace({ query: { ...route.query, ...change } })
}
const show = computed(() => text('show') || 'everything')
const station = computed(
  () => (stations as readonly string[]).find((s) => s === text('station')) as Station | undefined,
)

const counts = computed(() => library.facets ?? { all: 0, held: 0, fresh: 0 })
watch(
  () => [project.openId, route.query] as const,
  () => {
    if (route.name !== 'arrivals') return
    const find = text('find').trim()
    library.show({
      sort: 'newest',
      ...(find ? { find } : {}),
      ...(station.value ? { station: station.value } : {}),
      ...(show.value === 'held' ? { stays: true } : {}),
      ...(show.value === 'new' ? { fresh: true } : {}),
    })
  },
  { immediate: true },
)
const underWay = computed(() =>
  arrivals.deliveries.filter(
    (d) => d.state === 'measuring' || (d.state === 'receiving' && uploads.sending?.delivery === d.id),
  ),
)
const refusing = computed(() =>
  arrivals.deliveries
    .slice(0, 3)
    .filter((d) => d.refused.length + d.setAside.length > 0 && !putAway.value.has(d.id)),
)
/** What was taken in by a preset can be taken back as long as one remembers it. */
const FRESH_MS = 3_600_000
const isFresh = (d: Delivery): boolean => Date.now() - Date.parse(d.created) < FRESH_MS
const offering = computed(() =>
  arrivals.deliveries
    .slice(0, 3)
    .filter(
      (d) =>
        d.state === 'done' &&
        !putAway.value.has(d.id) &&
        (d.intake === null ? d.suggested !== null : isFresh(d)),
    ),
)
const stationOptions = [
  { key: '', label: 'any station' },
  ...stations.map((s) => ({ key: s, label: stationTitles[s] })),
]

const leave = project.onEvent(arrivals.hear)
onBeforeUnmount(() => {
  leave()
  bulk.clear()
})
watch(
  () => project.openId,
  () => {
    arrivals.refreshSoon()
    void bulk.recall()
  },
  { immediate: true },
)
watch(
  () => project.connected,
  (now, before) => {
    if (now && !before) arrivals.refreshSoon()
  },
)
onMounted(() => {
  document.title = 'Arrivals · Stern Gate'
})

function take(input: HTMLInputElement | null): void {
  if (!input?.files) return
  const files = chosenFiles(input.files)
  input.value = ''
  void uploads.bring(files)
}
const AS_IT_CAME = 'as it came',
  EDIT = 'edit'
const intakeOptions = computed(() => [
  { key: AS_IT_CAME, label: 'As it comes' },
  ...intake.presets.map((p) => ({ key: p.name, label: p.name })),
  { key: 'line', type: 'divider' },
  { key: EDIT, label: 'Presets …' },
])
function pickIntake(key: string): void {
  if (key === EDIT) presetsOpen.value = true
  else intake.choose(key === AS_IT_CAME ? null : key)
}
const bringOptions = [
  { key: 'files', label: 'Files …' },
  { key: 'folder', label: 'A folder …' },
]
const bring = (key: string): void => (key === 'files' ? picker : folderPicker).value?.click()

useWindowKey((event) => {
  if (event.key === '/' && !isTyping(event)) {
    event.preventDefault()
    finder.value?.focus()
  } else if (event.key === 'Escape') isTyping(event) ? finder.value?.blur() : bulk.clear()
  else if (event.key === 'x' && !isTyping(event)) toggleFocused()
  else if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && !isTyping(event)) step(event)
})
function toggleFocused(): void {
  const id = (document.activeElement as HTMLElement | null)?.dataset['asset']
  if (id) bulk.toggle(id)
}
function step(event: KeyboardEvent): void {
  const lines = [...document.querySelectorAll<HTMLElement>('[data-asset]')]
  const at = lines.indexOf(document.activeElement as HTMLElement)
  const next = lines[at === -1 ? 0 : at + (event.key === 'ArrowDown' ? 1 : -1)]
  if (!next) return
  event.preventDefault()
  void nextTick(() => next.focus())
}
const cancel = (id: string): void => {
  uploads.stop()
  void arrivals.cancel(id)
}
</script>

<template>
  <div class="arrivals">
    <header>
      <h1>{{ project.open?.name }}</h1>
      <span class="soft"
        >target {{ project.open?.target }} · rulebook {{ project.open?.rulebookRevision }}</span
      >
      <span v-if="!project.connected" class="lost" role="status">connection lost, coming back …</span>
      <span class="gap" />
      <NInput
        ref="finder"
        class="find"
        size="small"
        clearable
        :value="text('find')"
        placeholder="Find a name, a rule, a person"
        :input-props="{ 'aria-label': 'Find' }"
        @update:value="(v: string) => setQuery({ find: v || undefined })"
        ><template #suffix><kbd>/</kbd></template></NInput
      >
      <NDropdown trigger="click" size="small" :options="intakeOptions" @select="pickIntake"
        ><button class="btn intake" title="How the next delivery is taken in">
          Taken in: {{ intake.chosen?.name ?? 'as it comes' }} ▾
        </button></NDropdown
      >
      <NDropdown trigger="click" size="small" :options="bringOptions" @select="bring"
        ><button class="btn bring">Bring files in</button></NDropdown
      >
      <input ref="picker" type="file" multiple hidden aria-label="Choose files" @change="take(picker)" />
      <input
        ref="folderPicker"
        type="file"
        webkitdirectory
        hidden
        aria-label="Choose a folder"
        @change="take(folderPicker)"
      />
    </header>
    <MendDialog v-if="mending" :assets="null" of="all assets of the project" @close="mending = false" />
    <IntakePresets v-if="presetsOpen" @close="presetsOpen = false" />
    <div
      v-if="underWay.length > 0 || refusing.length > 0 || offering.length > 0 || uploads.unsent"
      class="top"
    >
      <DeliveryLine
        v-for="d in underWay"
        :key="d.id"
        :delivery="d"
        :doing="arrivals.doing[d.id]"
        :sending="uploads.sending?.delivery === d.id ? uploads.sending : null"
        @cancel="cancel(d.id)"
      />
      <section v-if="uploads.unsent" class="unsent" role="status">
        <p>
          <b>Delivery {{ uploads.unsent.number }}</b> {{ uploads.unsent.note }} was not sent to its end:
          {{ uploads.unsent.files }} files came whole. Bring the same in once more and it goes on where it
          stopped.
        </p>
        <button class="btn" :disabled="uploads.unsent.files === 0" @click="uploads.finish(uploads.unsent.id)">
          Measure what came</button
        ><button class="btn" @click="uploads.giveUp(uploads.unsent.id)">Stop it</button>
      </section>
      <IntakeOffer :deliveries="offering" @close="(id) => (putAway = new Set([...putAway, id]))" />
      <RefusedFiles :deliveries="refusing" @close="(id) => (putAway = new Set([...putAway, id]))" />
    </div>
    <WhatCame
      :deliveries="arrivals.deliveries"
      :assets="counts.all"
      :stamp="`${counts.all} ${counts.held} ${library.total}`"
      :busy="underWay.length > 0"
    />
    <template v-if="counts.all > 0">
      <div class="filters">
        <button
          class="btn"
          :class="{ on: show === 'everything' }"
          :aria-pressed="show === 'everything'"
          @click="setQuery({ show: undefined })"
        >
          Everything {{ formatCount(counts.all) }}
        </button>
        <button
          class="btn"
          :class="{ on: show === 'held' }"
          :aria-pressed="show === 'held'"
          @click="setQuery({ show: 'held' })"
        >
          Held {{ formatCount(counts.held) }}
        </button>
        <button
          class="btn"
          :class="{ on: show === 'new' }"
          :aria-pressed="show === 'new'"
          @click="setQuery({ show: 'new' })"
        >
          New since yesterday {{ formatCount(counts.fresh) }}
        </button>
        <span class="soft">with findings at</span>
        <NDropdown
          trigger="click"
          size="small"
          :options="stationOptions"
          @select="(key: string) => setQuery({ station: key || undefined })"
          ><button class="btn">{{ station ? stationTitles[station] : 'any station' }} ▾</button></NDropdown
        >
        <span class="gap" /><button class="btn" data-mend-all @click="mending = true">
          Mend what is safe …</button
        ><span class="soft narrow">newest first</span>
      </div>
      <AssetHeads />
      <LibraryList />
      <p v-if="library.loaded && library.total === 0" class="none soft">
        Nothing fits these filters.
        <button class="btn" @click="setQuery({ show: undefined, station: undefined, find: undefined })">
          Show everything
        </button>
      </p>
      <BulkBar />
    </template>
    <div v-else-if="library.loaded && library.facets" class="empty">
      <svg viewBox="0 0 24 24" fill="none" stroke="var(--tide)" stroke-width="1.1" aria-hidden="true">
        <path d="M3 17c2 1.6 4 1.6 6 0s4-1.6 6 0 4 1.6 6 0" />
        <path d="M12 3v9m-4-4 4 4 4-4" />
      </svg>
      <h2>Drop meshes and textures here</h2>
      <p class="soft">
        Files or whole folders, mixed as they are: glTF, GLB, OBJ, FBX, COLLADA, STL, PLY; PNG, JPEG, WebP,
        AVIF, TGA, TIFF, KTX2, DDS, EXR, HDR; zips of them. Each is measured and judged by the rulebook;
        nothing is changed until you say so.
      </p>
      <div>
        <button class="btn go" @click="bring('files')">Choose files</button>
        <button class="btn" @click="bring('folder')">Choose a folder</button>
      </div>
    </div>
  </div>
</template>

<style scoped src="./viewHead.css"></style>
<style scoped>
.arrivals {
  display: flex;
  flex-direction: column;
  min-height: 0;
  --asset-columns: 38px minmax(190px, 1fr) 82px 46px repeat(10, 36px) 132px 90px;
}
.find {
  width: 300px;
}
.bring {
  height: 30px;
}
.lost {
  color: var(--stop);
  font-weight: 500;
}
.top {
  display: grid;
  gap: 8px;
  padding: 12px 18px 0;
  flex: none;
}
.filters {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 12px 18px 8px;
  flex: none;
}
.filters .soft {
  margin-left: 8px;
}
.none {
  padding: 24px 18px;
}
.empty {
  flex: 1;
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 10px;
  text-align: center;
  margin: 24px;
  border: 1px dashed var(--soft);
  border-radius: 3px;
}
.empty svg {
  width: 72px;
}
.empty h2 {
  font: 600 20px/1.2 var(--text);
}
.empty p {
  max-width: 460px;
}
.unsent {
  display: flex;
  gap: 8px;
  align-items: center;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-left: 3px solid var(--caution);
  border-radius: 3px;
  padding: 7px 8px 7px 12px;
}
.unsent p {
  flex: 1;
}
</style>
