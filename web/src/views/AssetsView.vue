<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { NInput } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { stations, stationTitles, type Station } from '@stern-gate/contract'
import AssetHeads from '../components/lists/AssetHeads.vue'
import BulkBar from '../components/lists/BulkBar.vue'
import LibraryList from '../components/lists/LibraryList.vue'
import LevelShape from '../marks/LevelShape.vue'
import { verdictShapes, verdictWords, type ShownVerdict } from '../marks/verdictWords'
import { isTyping, useWindowKey } from '../keys/useWindowKey'
import { useBulk } from '../stores/bulk'
import { useLibrary } from '../stores/library'
import { useProject } from '../stores/project'

// Every asset of the project, by name, with facets that count
const route = useRoute()
const router = useRouter()
const project = useProject()
const library = useLibrary()
const bulk = useBulk()
const finder = ref<InstanceType<typeof NInput> | null>(null)

const facetKeys = ['verdict', 'station', 'class', 'family'] as const
type FacetKey = (typeof facetKeys)[number]
const titles: Record<FacetKey, string> = {
  verdict: 'Verdict',
  station: 'Findings at',
  class: 'Class',
  family: 'Family',
}
const wordOf = (key: FacetKey, value: string): string =>
  key === 'verdict'
    ? verdictWords[value as ShownVerdict]
    : key === 'station'
      ? stationTitles[value as Station]
      : key === 'class'
        ? value === 'texture-set'
          ? 'Texture set'
          : (project.open?.classes.find((c) => c.id === value)?.title ?? value)
        : value
const query = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
const setQuery = (change: Record<string, string | undefined>): void => {
  void router.replace({ query: { ...route.query, ...change } })
}
const oneOf = <T extends string>(value: string, all: readonly T[]): T | undefined =>
  all.find((v) => v === value)
const counted = computed(() =>
  facetKeys.map((key) => ({ key, title: titles[key], values: library.facets?.[key] ?? [] })),
)
watch(
  () => [project.openId, route.query] as const,
  () => {
    if (route.name !== 'assets') return
    const verdict = oneOf(query('verdict'), ['held', 'clear', 'unjudged', 'failed'] as const),
      station = oneOf(query('station'), stations)
    library.show({
      sort: 'name',
      ...(query('find').trim() ? { find: query('find').trim() } : {}),
      ...(verdict ? { verdict } : {}),
      ...(station ? { station } : {}),
      ...(query('class') ? { class: query('class') } : {}),
      ...(query('family') ? { family: query('family') } : {}),
    })
  },
  { immediate: true },
)

const leave = project.onEvent(library.hear)
onBeforeUnmount(() => {
  leave()
  bulk.clear()
})
watch(
  () => project.openId,
  () => {
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
      <span class="soft">{{ library.total }} of {{ library.facets?.all ?? library.total }}</span
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
              {{ wordOf(f.key, v.value) }}</span
            ><span class="mono">{{ v.count }}</span>
          </button>
        </section>
      </aside>
      <div class="main">
        <AssetHeads />
        <LibraryList />
        <p v-if="library.loaded && library.total === 0" class="none soft">
          {{
            library.facets?.all === 0
              ? 'Nothing has arrived yet. Drop meshes and textures anywhere on the page.'
              : 'Nothing fits these facets.'
          }}
          <button v-if="(library.facets?.all ?? 0) > 0" class="btn" @click="router.replace({ query: {} })">
            Show everything
          </button>
        </p>
      </div>
    </div>
    <BulkBar />
  </div>
</template>

<style scoped src="./viewHead.css"></style>
<style scoped>
.assets {
  display: flex;
  flex-direction: column;
  min-height: 0;
  --asset-columns: 38px minmax(150px, 1fr) 78px 40px repeat(10, 32px) 128px 84px;
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
.none {
  padding: 24px 18px;
}
</style>
