<script setup lang="ts">
import { nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { foundKinds, type Found } from '@stern-gate/contract'
import { findNames } from '../../api/client'
import LevelShape from '../../marks/LevelShape.vue'
import { verdictShapes } from '../../marks/verdictWords'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'

// Any name of the project by a part of it, and the place where it is seen
const emit = defineEmits<{ close: [] }>()
const router = useRouter(),
  project = useProject(),
  faults = useFaults()
const field = ref<HTMLInputElement | null>(null),
  list = ref<HTMLElement | null>(null)
const text = ref(''),
  kind = ref<Found['what'] | 'all'>('all'),
  at = ref(0)
const found = shallowRef<readonly Found[]>([])
/** What the list answers to; while it is another than what is typed the answer is on its way. */
const answered = ref('')
const words: Record<Found['what'] | 'all', string> = {
  all: 'All',
  asset: 'Assets',
  texture: 'Textures',
  slot: 'Slots',
  node: 'Nodes',
  clip: 'Clips',
  file: 'Files',
}
const ASK_MS = 120
let delay: ReturnType<typeof setTimeout> | undefined

onMounted(() => field.value?.focus())
watch([text, kind], () => {
  clearTimeout(delay)
  delay = setTimeout(ask, ASK_MS)
})
async function ask(): Promise<void> {
  const wanted = text.value.trim(),
    key = `${kind.value} ${wanted}`
  try {
    const rows =
      wanted === '' || project.openId === null
        ? []
        : await findNames(project.openId, wanted, kind.value === 'all' ? null : kind.value)
    if (`${kind.value} ${text.value.trim()}` !== key) return
    found.value = rows
    at.value = 0
    answered.value = wanted
  } catch (error) {
    faults.put(error)
  }
}
const places: Record<Found['what'], (f: Found) => { station?: string; query?: Record<string, string> }> = {
  asset: () => ({}),
  texture: (f) => ({ station: 'colour', query: { texture: f.name } }),
  slot: (f) => ({ station: 'slots', query: { row: f.name } }),
  node: () => ({ station: 'mesh' }),
  clip: () => ({ station: 'mesh' }),
  file: () => ({ station: 'files' }),
}
function open(row: Found | undefined): void {
  if (!row) return
  const { station, query } = places[row.what](row)
  void router.push({
    name: 'bench',
    params: { project: project.openId!, asset: row.asset, ...(station ? { station } : {}) },
    query: query ?? {},
  })
  emit('close')
}
async function move(by: number): Promise<void> {
  if (found.value.length === 0) return
  at.value = (at.value + by + found.value.length) % found.value.length
  await nextTick()
  list.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' })
}
/** The name in three pieces: before, what was typed, after. */
function pieces(name: string): [string, string, string] {
  const from = name.toLowerCase().indexOf(answered.value.toLowerCase()),
    to = from + answered.value.length
  return from < 0 ? [name, '', ''] : [name.slice(0, from), name.slice(from, to), name.slice(to)]
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <section class="box" role="dialog" aria-label="Find anything">
      <input
        ref="field"
        v-model="text"
        class="mono"
        placeholder="Part of a name"
        aria-label="Part of a name"
        role="combobox"
        aria-expanded="true"
        aria-controls="found"
        :aria-activedescendant="found.length > 0 ? `found-${at}` : undefined"
        maxlength="120"
        spellcheck="false"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)"
        @keydown.enter.prevent="open(found[at])"
      />
      <div class="kinds" role="toolbar" aria-label="Kind of thing">
        <button
          v-for="k in ['all', ...foundKinds] as const"
          :key="k"
          :class="{ on: kind === k }"
          :aria-pressed="kind === k"
          @click="kind = k"
        >
          {{ words[k] }}
        </button>
      </div>
      <ul id="found" ref="list" role="listbox" aria-label="Names found">
        <li
          v-for="(row, i) in found"
          :id="`found-${i}`"
          :key="`${row.asset} ${row.what} ${row.name}`"
          role="option"
          :aria-selected="i === at"
          :class="{ on: i === at }"
          :data-found="row.what"
          @mousemove="at = i"
          @click="open(row)"
        >
          <span class="kind">{{ row.what }}</span><span class="mono name" :title="row.name"
            >{{ pieces(row.name)[0] }}<mark>{{ pieces(row.name)[1] }}</mark
            >{{ pieces(row.name)[2] }}</span
          >
          <span class="of"
            ><LevelShape :state="verdictShapes[row.verdict ?? 'unjudged']" /><span
              v-if="row.what !== 'asset'"
              class="soft"
              >{{ row.assetName }}</span
            ></span
          >
        </li>
      </ul>
      <p v-if="found.length === 0" class="soft">
        {{
          text.trim() === ''
            ? 'Assets, textures, slots, nodes, clips and files of the project, by any part of their name; one or two letters find names that begin with them.'
            : answered === text.trim()
              ? text.trim().length < 3
                ? 'No name begins with this.'
                : 'No name holds this.'
              : 'Looking …'
        }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 30;
  background: rgba(10, 16, 18, 0.4);
  display: grid;
  justify-items: center;
  align-items: start;
  padding-top: 12vh;
}
.box {
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 3px;
  width: 680px;
  max-height: 70vh;
  box-shadow: 0 10px 40px rgba(0, 0, 0, 0.25);
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  overflow: hidden;
}
input {
  border: 0;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  padding: 13px 16px;
  font-size: 15px;
}
input:focus {
  outline: none;
  border-bottom-color: var(--tide);
}
.kinds {
  display: flex;
  gap: 2px;
  padding: 8px 12px;
}
.kinds button {
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  font: 500 12.5px/1 var(--narrow);
  color: var(--soft);
  padding: 5px 8px;
  cursor: pointer;
}
.kinds button.on {
  color: var(--ink);
  background: var(--wash);
  border-color: var(--tide);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0 0 6px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: 60px minmax(0, 1fr) minmax(0, 200px);
  gap: 10px;
  align-items: center;
  padding: 5px 16px;
  cursor: pointer;
}
li.on {
  background: var(--wash);
}
.kind {
  font: 500 12px/1 var(--narrow);
  color: var(--soft);
}
.name,
.of span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name {
  font-size: 12.5px;
}
.of {
  display: flex;
  gap: 7px;
  align-items: center;
  font-size: 12px;
  min-width: 0;
}
mark {
  background: none;
  color: var(--tide);
  font-weight: 500;
}
p {
  padding: 4px 16px 16px;
}
</style>
