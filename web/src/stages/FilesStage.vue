<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import type { PartMark } from '@stern-gate/core/parts'
import { droppedFiles, type BroughtFile } from '../api/droppedFiles'
import { bytesText } from '../words/formats'
import { fileRows, placeFor, placesAs, placesByName, type FileRow } from './fileRows'
import LongName from '../marks/LongName.vue'
import LevelShape from '../marks/LevelShape.vue'

// The mesh at the left, what it asks for and what came along at the right, arrows between
const props = defineProps<{ state: AssetState; marked: string | null; locked: boolean }>()
const emit = defineEmits<{ supply: [BroughtFile[]] }>()
const ROW = 52
const host = ref<HTMLElement | null>(null)
const width = ref(600)
const watcher = new ResizeObserver(([e]) => {
  if (e) width.value = e.contentRect.width
})
onMounted(() => {
  if (host.value) watcher.observe(host.value)
})
onBeforeUnmount(() => watcher.disconnect())

const rows = computed(() => fileRows(props.state))
/** Over which row files hang. */
const over = ref<string | null>(null),
  wanted = ref<string | null>(null),
  chooser = ref<HTMLInputElement | null>(null)
function choose(row: FileRow): void {
  wanted.value = row.wanted
  chooser.value?.click()
}
const chosen = (): void => {
  const [file] = chooser.value?.files ?? []
  if (file && wanted.value !== null) emit('supply', [{ path: placeFor(wanted.value, file.name), file }])
  if (chooser.value) chooser.value.value = ''
}
/** What a file that is given to the asset is of it. */
const givenAs = ref<PartMark>('lod1')
const marks: readonly [PartMark, string][] = [
  ...([1, 2, 3, 4, 5] as const).map((n): [PartMark, string] => [`lod${n}`, `level ${n}`]),
  ['hull', 'collision'],
]
const giver = ref<HTMLInputElement | null>(null)
function given(): void {
  const files = [...(giver.value?.files ?? [])].map((file) => ({ path: file.name, file }))
  if (files.length > 0 && mesh.value) emit('supply', placesAs(mesh.value.path, givenAs.value, files))
  if (giver.value) giver.value.value = ''
}
/**
 * One file takes the place that it was dropped on; of several each goes to the missing path of its own name.
 */
async function drop(event: DragEvent, row: FileRow): Promise<void> {
  over.value = null
  if (row.wanted === null || props.locked || !event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  const files = await droppedFiles(event.dataTransfer)
  emit(
    'supply',
    files.length === 1
      ? [{ path: placeFor(row.wanted, files[0]!.path), file: files[0]!.file }]
      : placesByName(rows.value, files),
  )
}
const mesh = computed(() => props.state.files.find((f) => f.part === 'mesh') ?? null)
const from = computed(() => ({ x: 250, y: 60 }))
const curve = (i: number): string => {
  const x = Math.max(320, width.value * 0.42),
    y = 34 + i * ROW + 22
  return `M${from.value.x} ${from.value.y} C ${from.value.x + 60} ${from.value.y}, ${x - 70} ${y}, ${x - 5} ${y}`
}
</script>

<template>
  <div ref="host" class="files" tabindex="0" role="group" aria-label="Files and references">
    <svg class="lines" :height="40 + rows.length * ROW" :width="width" aria-hidden="true">
      <defs>
        <marker id="head" markerWidth="7" markerHeight="7" refX="6" refY="3.5" orient="auto">
          <path d="M0 .5 6.500 3.500 0 6.500z" fill="context-stroke" />
        </marker>
      </defs>
      <template v-for="(r, i) in rows" :key="r.key">
        <path
          v-if="mesh && r.link !== 'none'"
          :d="curve(i)"
          fill="none"
          :stroke="r.missing ? 'var(--stop)' : 'var(--tide)'"
          stroke-width="1.4"
          :stroke-dasharray="r.link === 'dashed' ? '5 4' : undefined"
          marker-end="url(#head)"
        />
      </template>
    </svg>
    <div v-if="mesh" class="card mesh">
      <b class="mono">{{ mesh.path.split('/').at(-1) }}</b><small class="soft">{{
        mesh.path.split('/').slice(0, -1).join('/') || 'top of the delivery'
      }}</small
      ><small class="soft"
        >{{ bytesText(mesh.sizeBytes) }} · {{ state.mesh?.file.generator || 'exporter not said' }}</small
      >
      <div v-if="!locked" class="more">
        <input
          ref="giver"
          type="file"
          multiple
          hidden
          aria-label="Choose a level or a collision"
          data-give-file
          @change="given"
        />
        <select v-model="givenAs" aria-label="What the file is of this asset" data-give-as>
          <option v-for="[mark, word] in marks" :key="mark" :value="mark">{{ word }}</option>
        </select>
        <button
          class="btn"
          title="A mesh file, with what belongs to it; it makes the next version of this asset"
          @click="giver?.click()"
        >
          From a file …
        </button>
      </div>
    </div>
    <input ref="chooser" type="file" hidden aria-label="Choose the missing file" @change="chosen" />
    <div
      v-for="(r, i) in rows"
      :key="r.key"
      class="card"
      :data-wanted="r.wanted"
      @dragover="r.wanted !== null && !locked && ((over = r.key), $event.preventDefault())"
      @dragleave="over = null"
      @drop="drop($event, r)"
      :class="{ missing: r.missing, over: over === r.key, marked: marked === r.key || marked === r.title }"
      :style="{ top: `${34 + i * ROW}px`, left: mesh ? `max(320px, 42%)` : '24px' }"
    >
      <img v-if="r.sha" :src="r.sha" alt="" /><span v-else class="blank"
        ><LevelShape v-if="r.missing" state="stop"
      /></span>
      <span class="words"
        ><b class="mono" :title="r.title"><LongName :name="r.title.split('/').at(-1)!" /></b
        ><small class="soft" :title="r.said">{{ r.said }}</small></span
      >
      <button
        v-if="r.wanted !== null && !locked"
        class="btn give"
        title="Or drop it here; several at once find their places by name"
        @click="choose(r)"
      >
        Choose
      </button>
    </div>
    <p v-if="rows.length === 0" class="card lone">The mesh asks for no other file.</p>
  </div>
</template>

<style scoped>
.files {
  position: relative;
  overflow: auto;
  margin: 12px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.lines {
  position: absolute;
  left: 0;
  top: 0;
}
.card {
  position: absolute;
  display: flex;
  gap: 9px;
  align-items: center;
  height: 44px;
  right: 20px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  padding: 2px 9px 2px 3px;
}
.card b {
  font-weight: 400;
}
.card b,
.card small {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.mesh {
  left: 20px;
  top: 26px;
  width: 230px;
  right: auto;
  height: auto;
  padding: 9px 11px;
  display: block;
  border-color: var(--tide);
}
.more {
  display: flex;
  gap: 6px;
  margin-top: 8px;
}
.more select {
  flex: 1;
  min-width: 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  font: 400 12.5px/1.3 var(--text);
}
.words {
  min-width: 0;
  line-height: 1.3;
}
img,
.blank {
  width: 38px;
  height: 38px;
  flex: none;
  object-fit: cover;
  background: var(--stage);
  border-radius: 2px;
  display: grid;
  place-items: center;
}
.missing {
  border: 1px dashed var(--stop);
}
.over {
  background: var(--wash);
  border-style: solid;
  border-color: var(--tide);
}
.give {
  margin-left: auto;
  flex: none;
}
.missing .blank {
  background: none;
}
.marked {
  outline: 2px solid var(--tide);
}
.lone {
  left: 320px;
  top: 34px;
  right: auto;
  padding: 0 14px;
}
</style>
