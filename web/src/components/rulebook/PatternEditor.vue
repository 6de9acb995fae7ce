<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { PatternKind } from '@stern-gate/contract'
import { compilePattern, matchName, partSpans } from '@stern-gate/core/patterns'
import { listPatternNames } from '../../api/client'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'
import { useRulebook } from '../../stores/rulebook'

// The pattern of one kind of name, with names of the project held against it while it is typed
const book = useRulebook()
const project = useProject()
const faults = useFaults()
const kinds: { kind: PatternKind; title: string; says: string }[] = [
  { kind: 'mesh', title: 'Meshes', says: 'names of assets' },
  { kind: 'lod', title: 'Levels', says: 'nodes and files that are a level' },
  { kind: 'collision', title: 'Collision', says: 'nodes and files that are collision meshes' },
  { kind: 'texture', title: 'Textures', says: 'files without their extension' },
  { kind: 'slot', title: 'Material slots', says: 'names in the mesh file' },
  { kind: 'clip', title: 'Clips', says: 'names in the mesh file' },
]
const kind = ref<PatternKind>('mesh')
const names = shallowRef<{ total: number; names: string[] } | null>(null)
watch(
  () => [kind.value, project.openId, book.reply?.revision] as const,
  async ([of, id], _, over) => {
    names.value = null
    if (id === null) return
    let gone = false
    over(() => (gone = true))
    try {
      const answer = await listPatternNames(id, of)
      if (!gone) names.value = answer
    } catch (error) {
      if (!gone) faults.put(error)
    }
  },
  { immediate: true },
)
const source = computed(() => book.draft?.patterns[kind.value] ?? '')
const compiled = computed(() => compilePattern(source.value))
/** Names with their parts, those first that do not fit. */
const shown = computed(() => {
  const pattern = compiled.value
  if (!pattern.ok || !names.value) return []
  return names.value.names
    .map((name) => {
      const match = matchName(pattern.value, name)
      return { name, match, pieces: match.fits ? piecesOf(name, partSpans(pattern.value, name)) : [] }
    })
    .sort((a, b) => Number(a.match.fits) - Number(b.match.fits))
})
const fitting = computed(() => shown.value.filter((s) => s.match.fits).length)

/** A name cut where its parts begin and end. */
function piecesOf(
  name: string,
  spans: Record<string, [number, number]>,
): { text: string; part: number | null; title: string }[] {
  const order = Object.entries(spans).sort((a, b) => a[1][0] - b[1][0])
  const pieces: { text: string; part: number | null; title: string }[] = []
  let at = 0
  order.forEach(([part, [from, to]], i) => {
    if (from > at) pieces.push({ text: name.slice(at, from), part: null, title: '' })
    pieces.push({ text: name.slice(from, to), part: (i % 5) + 1, title: part })
    at = to
  })
  if (at < name.length) pieces.push({ text: name.slice(at), part: null, title: '' })
  return pieces
}
/** Pieces that can be put in at the end, so that nobody has to know the signs. */
const pieces = computed(() => [
  { label: 'a word', text: '{subject}' },
  { label: 'several words', text: '{subject:[a-z0-9]+(?:_[a-z0-9]+)*?}' },
  { label: 'one of …', text: '{kind:a|b}' },
  { label: 'a number', text: '{n:#}' },
  { label: 'two figures', text: '{n:##}' },
  { label: 'may be left out', text: '[_{variant:[a-z]}]' },
  { label: 'or another pattern', text: ' | ' },
])
const add = (text: string): void => book.set(['patterns', kind.value], source.value + text)
const SHOWN = 400
</script>

<template>
  <div class="patterns">
    <nav aria-label="Kinds of names">
      <button
        v-for="k in kinds"
        :key="k.kind"
        class="kind"
        :class="{ on: k.kind === kind }"
        :data-pattern-kind="k.kind"
        @click="kind = k.kind"
      >
        <b>{{ k.title }}</b><small class="soft">{{ k.says }}</small>
      </button>
    </nav>
    <section>
      <label class="top"
        ><span class="soft">Pattern</span>
        <input
          class="field mono"
          :value="source"
          spellcheck="false"
          :aria-invalid="!compiled.ok"
          data-pattern
          @input="book.set(['patterns', kind], ($event.target as HTMLInputElement).value)"
      /></label>
      <p v-if="!compiled.ok" class="mistake" role="alert">{{ compiled.fault.why }}</p>
      <div class="add">
        <span class="soft">add</span>
        <button v-for="p in pieces" :key="p.label" class="btn" :title="p.text" @click="add(p.text)">
          {{ p.label }}
        </button>
      </div>
      <p v-if="names" class="count">
        <b>{{ fitting }} of {{ names.total }}</b> fit
        <span v-if="names.total > names.names.length" class="soft"
          >of the first {{ names.names.length }}</span
        >
      </p>
      <ul v-if="compiled.ok" class="names mono">
        <li v-for="s in shown.slice(0, SHOWN)" :key="s.name" :class="{ bad: !s.match.fits }">
          <template v-if="s.match.fits"
            ><span
              v-for="(piece, i) in s.pieces"
              :key="i"
              :style="piece.part ? { background: `var(--part-${piece.part})` } : {}"
              :title="piece.title"
              >{{ piece.text }}</span
            ></template
          >
          <template v-else
            ><span>{{ s.name.slice(0, s.match.from) }}</span
            ><u>{{ s.name.slice(s.match.from) || '…' }}</u
            ><small class="soft"> {{ s.match.expected }} was expected</small></template
          >
        </li>
      </ul>
      <p v-if="names?.total === 0" class="soft">The project has no such names yet.</p>
    </section>
  </div>
</template>

<style scoped>
.patterns {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr);
  min-height: 0;
  flex: 1;
}
nav {
  border-right: 1px solid var(--line);
  padding: 10px 0;
  overflow: auto;
}
.kind {
  display: block;
  width: 100%;
  text-align: left;
  padding: 7px 14px 7px 11px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  cursor: pointer;
}
.kind b {
  font-weight: 500;
  display: block;
}
.kind.on {
  background: var(--wash);
  border-left-color: var(--tide);
}
section {
  padding: 16px 18px;
  overflow: auto;
  min-height: 0;
}
.top .field {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 7px 9px;
  font-size: 13px;
}
.field[aria-invalid='true'] {
  border-color: var(--stop);
}
.add {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
  align-items: center;
  margin: 8px 0 14px;
}
.mistake {
  color: var(--stop);
  margin-top: 6px;
}
.count {
  margin-bottom: 6px;
}
.names {
  list-style: none;
  padding: 0;
  columns: 2 300px;
  column-gap: 24px;
  font-size: 12.5px;
}
.names li {
  padding: 3px 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  break-inside: avoid;
}
.names u {
  text-decoration-color: var(--stop);
  text-underline-offset: 3px;
}
.names small {
  font: 11.5px var(--narrow);
}
.names span {
  border-radius: 2px;
}
</style>
