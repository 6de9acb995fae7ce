<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRulebook } from '../../stores/rulebook'

/** One row of a table: a value of each thing, at a path below it. */
export interface ValueRow {
  title: string
  path: readonly string[]
  kind: 'text' | 'number' | 'whole' | 'switch' | 'words' | 'wholes' | 'choice'
  choices?: readonly string[]
  unit?: string
  /** It may be left empty, which says this. */
  none?: string
  /** What holds where nothing is said. */
  default?: unknown
}

// Things of the rulebook side by side, a column each: classes, targets, intake presets
const props = defineProps<{
  root: 'classes' | 'targets' | 'intake'
  rows: readonly ValueRow[]
  word: string
  /** Said while there is none. */
  empty?: string
}>()
const book = useRulebook()
const fresh = ref('')
/** It takes in as files come. */
const newPreset = { options: {}, generator: '', folder: '', mend: false, apart: null, absent: 'ask' }
const ids = computed(() => Object.keys(book.draft?.[props.root] ?? {}))
const valueOf = (id: string, row: ValueRow): unknown =>
  book.valueAt(book.draft, [props.root, id, ...row.path]) ?? row.default
const isOwn = (id: string, row: ValueRow): boolean =>
  JSON.stringify(valueOf(id, row)) !==
  JSON.stringify(book.valueAt(book.before, [props.root, id, ...row.path]) ?? row.default)
const textOf = (id: string, row: ValueRow): string => {
  const value = valueOf(id, row)
  return Array.isArray(value) ? value.join(', ') : value === null || value === undefined ? '' : String(value)
}
function take(id: string, row: ValueRow, event: Event): void {
  const input = event.target as HTMLInputElement
  const set = (value: unknown): void => book.set([props.root, id, ...row.path], value)
  if (row.kind === 'switch') return set(input.checked)
  if (row.kind === 'words')
    return set(
      input.value
        .split(',')
        .map((w) => w.trim())
        .filter((w) => w !== ''),
    )
  if (row.kind === 'wholes') return set([...new Set(input.value.match(/\d+/g) ?? [])].map(Number))
  if (row.none !== undefined && input.value.trim() === '') return set(null)
  if (row.kind === 'text' || row.kind === 'choice') return set(input.value)
  if (input.value.trim() === '') return
  const value = Number(input.value)
  if (Number.isFinite(value)) set(row.kind === 'number' ? value : Math.round(value))
}
function add(): void {
  const title = fresh.value.trim()
  if (title === '' || !book.draft) return
  // A preset is called what it is called; classes and targets have a title besides
  const id = props.root === 'intake' ? title : title.toLowerCase()
  if (ids.value.includes(id)) return
  fresh.value = ''
  if (props.root === 'intake') return book.set([props.root, id], { ...newPreset })
  const base = props.root === 'classes' ? book.draft.defaultClass : book.draft.defaultTarget
  const from = book.valueAt(book.draft, [props.root, base]) as Record<string, unknown>
  book.set([props.root, id], {
    ...from,
    title,
    ...(props.root === 'classes' ? { folders: [id], words: [] } : {}),
  })
}
const isDefault = (id: string): boolean =>
  props.root !== 'intake' &&
  id === (props.root === 'classes' ? book.draft?.defaultClass : book.draft?.defaultTarget)
</script>

<template>
  <div class="scroll" :class="root">
    <p v-if="ids.length === 0" class="soft none">{{ empty }}</p>
    <table v-else>
      <thead>
        <tr>
          <th />
          <th v-for="id in ids" :key="id">
            <b v-if="root === 'intake'" class="title">{{ id }}</b>
            <input
              v-else
              class="title"
              :value="book.valueAt(book.draft, [root, id, 'title'])"
              :aria-label="`Title of ${id}`"
              @change="book.set([root, id, 'title'], ($event.target as HTMLInputElement).value)"
            />
            <span v-if="isDefault(id)" class="soft narrow">the default</span
            ><button
              v-else
              class="drop"
              :aria-label="`Take ${id} out`"
              :title="`Take ${id} out`"
              @click="book.set([root, id], undefined)"
            >
              ×
            </button>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.path.join()">
          <th scope="row">
            {{ row.title }} <span v-if="row.unit" class="soft">{{ row.unit }}</span>
          </th>
          <td v-for="id in ids" :key="id" :class="{ own: isOwn(id, row) }">
            <input
              v-if="row.kind === 'switch'"
              type="checkbox"
              :checked="valueOf(id, row) === true"
              :data-value="[root, id, ...row.path].join('.')"
              @change="take(id, row, $event)"
            />
            <select
              v-else-if="row.kind === 'choice'"
              class="field"
              :value="valueOf(id, row) ?? ''"
              :data-value="[root, id, ...row.path].join('.')"
              @change="take(id, row, $event)"
            >
              <option v-if="row.none !== undefined" value="">{{ row.none }}</option>
              <option v-for="c in row.choices" :key="c" :value="c">{{ c }}</option>
            </select>
            <input
              v-else
              class="field mono"
              :class="{ wide: row.kind === 'words' }"
              :type="['text', 'words', 'wholes'].includes(row.kind) ? 'text' : 'number'"
              step="any"
              :placeholder="row.none ?? ''"
              :value="textOf(id, row)"
              :title="row.kind === 'words' ? textOf(id, row) : undefined"
              :data-value="[root, id, ...row.path].join('.')"
              @change="take(id, row, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <form class="new" @submit.prevent="add">
      <input
        v-model="fresh"
        class="field name"
        :placeholder="`A ${word} of your own …`"
        :aria-label="`Name of a new ${word}`"
        maxlength="60"
      />
      <button class="btn" :disabled="fresh.trim() === ''">Add</button>
    </form>
  </div>
</template>

<style scoped>
.scroll {
  --column: 104px;
  overflow: auto;
  padding: 14px 18px 24px;
  flex: 1;
  min-height: 0;
}
/* Fewer of them, with longer words in them */
.scroll.targets,
.scroll.intake {
  --column: 168px;
}
.none {
  max-width: 78ch;
  margin-bottom: 12px;
}
table {
  border-collapse: collapse;
  margin-bottom: 14px;
}
th,
td {
  padding: 3px 8px 3px 0;
  text-align: left;
  border-bottom: 1px solid var(--hair);
  font-weight: 400;
}
tbody th {
  font: 500 12px/1.3 var(--narrow);
  white-space: nowrap;
  padding-right: 18px;
  position: sticky;
  left: 0;
  background: var(--paper);
}
.title {
  font: 600 13px var(--text);
  border: 0;
  background: none;
  width: var(--column);
  border-bottom: 1px dashed transparent;
}
.title:hover,
.title:focus {
  border-bottom-color: var(--line);
}
.field {
  width: var(--column);
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 3px 6px;
  font-size: 12px;
}
td.own .field {
  border-color: var(--tide);
  box-shadow: inset 0 -2px 0 var(--tide);
}
.new {
  display: flex;
  gap: 8px;
}
.name {
  width: 220px;
}
.drop {
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
}
</style>
