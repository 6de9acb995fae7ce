<script setup lang="ts">
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { blockFormats, textureRoles } from '@stern-gate/contract'
import ConventionList from '../components/rulebook/ConventionList.vue'
import EffectBand from '../components/rulebook/EffectBand.vue'
import PatternEditor from '../components/rulebook/PatternEditor.vue'
import RoleTable from '../components/rulebook/RoleTable.vue'
import RuleAside from '../components/rulebook/RuleAside.vue'
import RuleDetail from '../components/rulebook/RuleDetail.vue'
import RuleList from '../components/rulebook/RuleList.vue'
import ValueTable, { type ValueRow } from '../components/rulebook/ValueTable.vue'
import { saveAsJson } from '../api/saveAs'
import { isTyping, useWindowKey } from '../keys/useWindowKey'
import { useBulk } from '../stores/bulk'
import { useProject } from '../stores/project'
import { useRulebook } from '../stores/rulebook'
import { useWaivers } from '../stores/waivers'

// The rulebook: rules with their limits, names, roles, classes, targets; what a change would do stands below
const FitDialog = defineAsyncComponent(() => import('../components/rulebook/FitDialog.vue'))
const IntakeTable = defineAsyncComponent(() => import('../components/rulebook/IntakeTable.vue'))
const RevisionList = defineAsyncComponent(() => import('../components/rulebook/RevisionList.vue'))
const route = useRoute()
const router = useRouter()
const book = useRulebook()
const project = useProject()
const bulk = useBulk()
const parts = ['rules', 'names', 'roles', 'classes', 'targets', 'intake', 'conventions'] as const
type Part = (typeof parts)[number]
const text = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
const part = computed<Part>(() => parts.find((p) => p === text('part')) ?? 'rules')
const chosen = computed(() => book.rules.find((r) => r.id === text('rule')) ?? book.rules[0] ?? null)
const go = (query: Record<string, string | undefined>): void =>
  void router.replace({ query: { ...route.query, ...query } })
const find = ref('')
const finder = ref<HTMLInputElement | null>(null)
const fitting = ref(text('fit') === '1')
const showsRevisions = ref(false)
const fileMistake = ref<string | null>(null)
const picker = ref<HTMLInputElement | null>(null)
/** Assets that were chosen in a list are those that the rulebook is fitted to. */
const fitAssets = computed(() => (bulk.chosen.size > 0 ? [...bulk.chosen] : null))

const waivers = useWaivers()
const stop = project.onEvent(book.hear)
onBeforeUnmount(stop)
watch(
  () => project.openId,
  (now, was) => {
    if (was && now !== was) book.leave()
    void book.read()
    void waivers.read()
  },
  { immediate: true },
)
onMounted(() => {
  document.title = 'Rulebook · Stern Gate'
})
function closeFit(): void {
  fitting.value = false
  go({ fit: undefined })
}
const look = (assets: string[]): void => {
  bulk.choose(assets)
  void router.push({ name: 'assets', params: { project: project.openId } })
}
function fileOut(): void {
  if (!book.before) return
  saveAsJson('stern-gate.json', { $schema: `${location.origin}/api/schemas/rulebook`, ...book.draft })
}
async function fileIn(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement,
    [file] = input.files ?? []
  if (!file) return
  fileMistake.value = await book.takeFile(await file.text())
  input.value = ''
}
useWindowKey((event) => {
  if (event.key === '/' && !isTyping(event)) {
    event.preventDefault()
    finder.value?.focus()
  }
})

const classRows: ValueRow[] = [
  { title: 'Folders that give it', path: ['folders'], kind: 'words' },
  { title: 'Words that give it', path: ['words'], kind: 'words' },
  { title: 'Longest side, at least', path: ['longestSide', 'min'], kind: 'number', unit: 'm' },
  { title: 'Longest side, at most', path: ['longestSide', 'max'], kind: 'number', unit: 'm' },
  { title: 'Triangles, caution', path: ['triangles', 'caution'], kind: 'whole' },
  { title: 'Triangles, stop', path: ['triangles', 'stop'], kind: 'whole' },
  { title: 'Material slots', path: ['slots'], kind: 'whole' },
  { title: 'Texel density', path: ['texelsPerMetre'], kind: 'number', unit: '/m' },
  { title: 'Pivots that are right', path: ['pivots'], kind: 'words' },
  { title: 'Inputs of each slot', path: ['inputs'], kind: 'words' },
  { title: 'LODs above, triangles', path: ['lodsAbove'], kind: 'whole', none: 'never' },
  { title: 'Collision is a must', path: ['collision'], kind: 'switch' },
  { title: 'Needs a lightmap', path: ['lightmap'], kind: 'switch' },
  { title: 'Channels of data, from 0', path: ['dataChannels'], kind: 'wholes' },
  { title: 'Channel of its lightmap, from 0', path: ['lightmapChannel'], kind: 'whole' },
  { title: 'Side of its lightmap', path: ['lightmapTexels'], kind: 'whole', unit: 'texels' },
  { title: 'Textures may repeat', path: ['repeat'], kind: 'switch' },
  { title: 'Mirrored UVs', path: ['mirroredUvs'], kind: 'choice', choices: ['allowed', 'note', 'stop'] },
]
const targetRows: ValueRow[] = [
  { title: 'Screen width', path: ['screen', 'width'], kind: 'whole', unit: 'px' },
  { title: 'Screen height', path: ['screen', 'height'], kind: 'whole', unit: 'px' },
  { title: 'Field of view', path: ['screen', 'fovDegrees'], kind: 'number', unit: '°' },
  { title: 'Largest side of a texture', path: ['largestSide'], kind: 'whole', unit: 'texels' },
  {
    title: 'Sides of a texture',
    path: ['size'],
    kind: 'choice',
    choices: ['power-of-two', 'multiple-of-four'],
  },
  { title: 'Sizes are made on the way out', path: ['makesSizes'], kind: 'switch' },
  { title: 'Losses of its formats are measured', path: ['measuresError'], kind: 'switch' },
  {
    title: 'Receiver: green points',
    path: ['conventions', 'green'],
    kind: 'choice',
    choices: ['up', 'down'],
    none: 'as in the project',
  },
  { title: 'Receiver: packed channels', path: ['conventions', 'packed'], kind: 'text', none: 'orm' },
  {
    title: 'Receiver: up',
    path: ['conventions', 'up'],
    kind: 'choice',
    choices: ['+Y', '+Z'],
    none: '+Y, as in glTF',
  },
  { title: 'Receiver: one unit', path: ['conventions', 'unitMetres'], kind: 'number', unit: 'm', none: '1' },
  { title: 'Receiver: reads gloss', path: ['conventions', 'gloss'], kind: 'switch' },
  {
    title: 'Receiver: channel of the lightmap, from 0',
    path: ['conventions', 'lightmapChannel'],
    kind: 'whole',
    none: 'as the class says',
  },
  { title: 'Receiver: levels as files', path: ['conventions', 'levelFiles'], kind: 'switch' },
  { title: 'Receiver: collision as a file', path: ['conventions', 'hullFiles'], kind: 'switch' },
  { title: 'Memory of an asset', path: ['textureMemoryMiB', 'asset'], kind: 'number', unit: 'MiB' },
  { title: 'Memory of the project', path: ['textureMemoryMiB', 'project'], kind: 'number', unit: 'MiB' },
  { title: 'UV channels', path: ['uvChannels'], kind: 'whole' },
  { title: 'Inputs of a slot', path: ['inputsPerSlot'], kind: 'whole' },
  { title: 'Tile sets', path: ['tileSets'], kind: 'switch' },
  { title: 'Draws of a surface', path: ['takes'], kind: 'words' },
  ...textureRoles.map((role): ValueRow => ({
    title: `Stored: ${role}`,
    path: ['formats', role],
    kind: 'choice',
    choices: Object.keys(blockFormats),
  })),
]
</script>

<template>
  <div class="rulebook">
    <header>
      <h1>Rulebook</h1>
      <span v-if="book.reply" class="soft"
        >revision {{ book.reply.revision }} · {{ project.open?.name }}</span
      >
      <nav class="parts" aria-label="Parts of the rulebook">
        <button
          v-for="p in parts"
          :key="p"
          :class="{ on: p === part }"
          :data-part="p"
          :aria-current="p === part ? 'page' : undefined"
          @click="go({ part: p === 'rules' ? undefined : p })"
        >
          {{ p[0]!.toUpperCase() + p.slice(1) }}
        </button>
      </nav>
      <span class="gap" />
      <button class="btn" data-fit @click="fitting = true">
        Fit to {{ fitAssets ? `${fitAssets.length} chosen` : 'the library' }} …
      </button>
      <button class="btn" @click="fileOut">File out</button>
      <button class="btn" @click="picker?.click()">File in …</button>
      <button class="btn" @click="showsRevisions = true">Revisions</button>
      <input ref="picker" type="file" accept=".json,application/json" hidden data-file-in @change="fileIn" />
    </header>
    <p v-if="fileMistake" class="mistake" role="alert">
      The file was not taken. {{ fileMistake }} <button class="btn" @click="fileMistake = null">×</button>
    </p>
    <div v-if="book.draft" class="body">
      <template v-if="part === 'rules'">
        <aside>
          <input
            ref="finder"
            v-model="find"
            class="find"
            placeholder="Find a rule"
            aria-label="Find a rule"
          />
          <RuleList :chosen="chosen?.id ?? null" :find="find" @choose="go({ rule: $event })" />
        </aside>
        <RuleDetail v-if="chosen" :rule="chosen" @look="look" />
        <RuleAside v-if="chosen" :rule="chosen" />
      </template>
      <PatternEditor v-else-if="part === 'names'" />
      <RoleTable v-else-if="part === 'roles'" />
      <ValueTable v-else-if="part === 'classes'" root="classes" :rows="classRows" word="class" />
      <ValueTable v-else-if="part === 'targets'" root="targets" :rows="targetRows" word="target" />
      <IntakeTable v-else-if="part === 'intake'" />
      <ConventionList v-else />
    </div>
    <p v-else class="soft wait">Opening the rulebook …</p>
    <EffectBand v-if="book.changed" />
    <FitDialog v-if="fitting" :assets="fitAssets" @close="closeFit" />
    <RevisionList v-if="showsRevisions" @close="showsRevisions = false" />
  </div>
</template>

<style scoped>
.rulebook {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 44px;
  padding: 0 14px 0 18px;
  border-bottom: 1px solid var(--line);
  flex: none;
  white-space: nowrap;
}
h1 {
  font: 600 16px/1 var(--text);
}
.parts {
  display: flex;
  margin-left: 8px;
}
.parts button {
  border: 0;
  background: none;
  padding: 5px 8px;
  font: 500 12.5px/1 var(--narrow);
  color: var(--soft);
  cursor: pointer;
}
.parts button.on {
  color: var(--ink);
  box-shadow: inset 0 -2px 0 var(--tide);
}
.gap {
  flex: 1;
}
.body {
  flex: 1;
  min-height: 0;
  display: flex;
}
aside {
  width: 268px;
  flex: none;
  display: flex;
  flex-direction: column;
  border-right: 1px solid var(--line);
  min-height: 0;
}
.find {
  margin: 10px 14px 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 4px 8px;
}
.body > .detail {
  flex: 1;
}
.wait {
  padding: 24px 18px;
  flex: 1;
}
.mistake {
  padding: 8px 18px;
  border-bottom: 1px solid var(--stop);
  color: var(--stop);
}
</style>
