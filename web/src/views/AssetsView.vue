<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { NInput, NVirtualList } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { stations, stationTitles, type AssetRow } from '@stern-gate/contract'
import AssetHeads from '../components/lists/AssetHeads.vue'
import AssetLine from '../components/lists/AssetLine.vue'
import BulkBar from '../components/lists/BulkBar.vue'
import LevelShape from '../marks/LevelShape.vue'
import { shownVerdict, verdictShapes, verdictWords, type ShownVerdict } from '../marks/verdictWords'
import { isTyping, useWindowKey } from '../keys/useWindowKey'
import { useArrivals } from '../stores/arrivals'
import { useBulk } from '../stores/bulk'
import { useProject } from '../stores/project'

// Every asset of the project, by name, with facets that count
const route = useRoute()
const router = useRouter()
const project = useProject()
const arrivals = useArrivals()
const bulk = useBulk()
const finder = ref<InstanceType<typeof NInput> | null>(null)

type FacetKey = 'verdict' | 'kind' | 'class' | 'family' | 'station'
interface Facet {
  key: FacetKey
  title: string
  of: (row: AssetRow) => string[]
  word: (value: string) => string
}
const facets: Facet[] = [
  {
    key: 'verdict',
    title: 'Verdict',
    of: (r) => [shownVerdict(r)],
    word: (v) => verdictWords[v as ShownVerdict],
  },
  {
    key: 'station',
    title: 'Findings at',
    of: (r) => stations.filter((s) => r.tally[s].count > 0),
    word: (v) => stationTitles[v as keyof typeof stationTitles],
  },
  {
    key: 'class',
    title: 'Class',
    of: (r) => [r.kind === 'mesh' ? r.classTitle : 'Texture set'],
    word: (v) => v,
  },
  {
    key: 'family',
    title: 'Family',
    of: (r) => [/^([a-z0-9]+)_/.exec(r.name)?.[1] ?? 'other'],
    word: (v) => v,
  },
]
const query = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
const setQuery = (change: Record<string, string | undefined>): void => {
  void router.replace({ query: { ...route.query, ...change } })
}
const passes = (row: AssetRow, except: FacetKey | null): boolean => {
  const find = query('find').toLowerCase()
  if (
    find !== '' &&
    ![row.name, row.headline, row.classTitle, row.by].some((t) => t.toLowerCase().includes(find))
  )
    return false
  return facets.every((f) => f.key === except || query(f.key) === '' || f.of(row).includes(query(f.key)))
}
const rows = computed(() =>
  arrivals.assets
    .filter((r) => passes(r, null))
    .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0)),
)
const counted = computed(() =>
  facets.map((facet) => {
    const counts = new Map<string, number>()
    for (const row of arrivals.assets)
      if (passes(row, facet.key))
        for (const value of facet.of(row)) counts.set(value, (counts.get(value) ?? 0) + 1)
    const order =
      facet.key === 'station'
        ? stations.filter((s) => counts.has(s))
        : [...counts.keys()].sort((a, b) => counts.get(b)! - counts.get(a)!)
    return { ...facet, values: order.map((value) => ({ value, count: counts.get(value)! })) }
  }),
)

const leave = project.onEvent(arrivals.hear)
onBeforeUnmount(() => {
  leave()
  bulk.clear()
})
watch(
  () => project.openId,
  () => {
    void arrivals.refresh()
    void bulk.recall()
  },
  { immediate: true },
)
onMounted(() => {
  document.title = 'Assets · Stern Gate'
})
useWindowKey((event) => {
  if (event.key === '/' && !isTyping(event)) {
    event.preventDefault()
    finder.value?.focus()
  } else if (event.key === 'Escape') isTyping(event) ? finder.value?.blur() : bulk.clear()
})
</script>

<template>
  <div class="assets">
    <header>
      <h1>Assets</h1>
      <span class="soft">{{ rows.length }} of {{ arrivals.assets.length }}</span
      ><span class="gap" />
      <NInput
        ref="finder"
        class="find"
        size="small"
        clearable
        :value="query('find')"
        placeholder="Find a name, a rule, a person"
        :input-props="{ 'aria-label': 'Find' }"
        @update:value="(v: string) => setQuery({ find: v || undefined })"
        ><template #suffix><kbd>/</kbd></template></NInput
      >
    </header>
    <div class="body">
      <aside class="facets" aria-label="Facets" tabindex="0">
        <section v-for="f in counted" :key="f.key">
          <h2>{{ f.title }}</h2>
          <button
            v-for="v in f.values"
            :key="v.value"
            :class="{ on: query(f.key) === v.value }"
            :aria-pressed="query(f.key) === v.value"
            @click="setQuery({ [f.key]: query(f.key) === v.value ? undefined : v.value })"
          >
            <span
              ><LevelShape v-if="f.key === 'verdict'" :state="verdictShapes[v.value as ShownVerdict]" />
              {{ f.word(v.value) }}</span
            ><span class="mono">{{ v.count }}</span>
          </button>
        </section>
      </aside>
      <div class="main">
        <AssetHeads :ids="rows.map((r) => r.id)" />
        <NVirtualList class="list" :items="rows" :item-size="45" key-field="id">
          <template #default="{ item }"
            ><AssetLine
              :key="item.id"
              :asset="item"
              :chosen="bulk.chosen.has(item.id)"
              :to="{ name: 'bench', params: { project: project.openId, asset: item.id } }"
              @toggle="bulk.toggle(item.id)"
          /></template>
        </NVirtualList>
        <p v-if="arrivals.loaded && rows.length === 0" class="none soft">
          {{
            arrivals.assets.length === 0
              ? 'Nothing has arrived yet. Drop meshes and textures anywhere on the page.'
              : 'Nothing fits these facets.'
          }}
          <button v-if="arrivals.assets.length > 0" class="btn" @click="router.replace({ query: {} })">
            Show everything
          </button>
        </p>
      </div>
    </div>
    <BulkBar />
  </div>
</template>

<style scoped>
.assets {
  display: flex;
  flex-direction: column;
  min-height: 0;
  --asset-columns: 38px minmax(150px, 1fr) 78px 40px repeat(10, 32px) 128px 84px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 44px;
  padding: 0 18px;
  border-bottom: 1px solid var(--line);
  flex: none;
}
h1 {
  font: 600 16px/1 var(--text);
}
.gap {
  flex: 1;
}
.find {
  width: 300px;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 168px minmax(0, 1fr);
}
.facets {
  border-right: 1px solid var(--line);
  padding: 12px 10px;
  overflow: auto;
}
h2 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin: 4px 6px 6px;
}
section {
  margin-bottom: 14px;
}
.facets button {
  display: flex;
  justify-content: space-between;
  align-items: center;
  width: 100%;
  padding: 4px 6px;
  background: none;
  border: 0;
  border-radius: 3px;
  cursor: pointer;
  font: 500 12.5px/1.3 var(--narrow);
  text-align: left;
}
.facets button:hover {
  background: var(--wash);
}
.facets button.on {
  background: var(--mast);
  color: var(--on-mast);
}
.night .facets button.on {
  background: var(--wash);
  color: var(--ink);
  box-shadow: inset 2px 0 var(--tide);
}
.main {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.list {
  flex: 1;
  min-height: 0;
}
.none {
  padding: 24px 18px;
}
</style>
