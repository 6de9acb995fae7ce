<script setup lang="ts">
import type { AssetState, Place } from '@stern-gate/contract'

// Every name in its coloured parts under the pattern that it is held against
const props = defineProps<{ state: AssetState; marked: Place | null }>()
const words = {
  asset: 'asset',
  node: 'level or hull',
  texture: 'texture',
  slot: 'slot',
  clip: 'clip',
} as const

type Name = AssetState['names'][number]
interface Stretch {
  text: string
  part: string
  tint: number
  wrong: boolean
}
const plainName = (name: Name): string =>
  name.place.kind === 'name'
    ? name.place.what === 'texture'
      ? name.place.name.replace(/\.[^.]+$/, '')
      : name.place.name
    : ''

function stretches(name: Name): Stretch[] {
  const text = plainName(name)
  if (!name.fits && name.place.kind === 'name') {
    const [from] = name.place.span
    const rest =
      from < text.length
        ? { text: text.slice(from), part: 'does not fit' }
        : { text: '…', part: 'ends too early' }
    return [
      { text: text.slice(0, from), part: '', tint: 0, wrong: false },
      { ...rest, tint: 0, wrong: true },
    ].filter((s) => s.text !== '')
  }
  const parts: Stretch[] = []
  let at = 0
  for (const [i, p] of [...name.parts].sort((a, b) => a.from - b.from).entries()) {
    if (p.from > at) parts.push({ text: text.slice(at, p.from), part: '', tint: 0, wrong: false })
    parts.push({ text: p.text, part: p.part === 'n' ? 'number' : p.part, tint: (i % 5) + 1, wrong: false })
    at = p.to
  }
  if (at < text.length) parts.push({ text: text.slice(at), part: '', tint: 0, wrong: false })
  return parts
}
const isMarked = (name: Name): boolean =>
  props.marked?.kind === 'name' &&
  name.place.kind === 'name' &&
  name.place.name === props.marked.name &&
  name.place.what === props.marked.what
</script>

<template>
  <div class="names" tabindex="0" role="group" aria-label="Names by their patterns">
    <div v-for="(n, i) in state.names" :key="i" class="row" :class="{ marked: isMarked(n) }">
      <span class="what narrow soft">{{ n.place.kind === 'name' ? words[n.place.what] : '' }}</span>
      <div>
        <p class="name mono">
          <span
            v-for="(s, k) in stretches(n)"
            :key="k"
            class="stretch"
            :class="{ wrong: s.wrong }"
            :style="s.tint ? { background: `var(--part-${s.tint})` } : {}"
            >{{ s.text }}<small v-if="s.part">{{ s.part }}</small></span
          >
        </p>
        <p v-if="n.proposal" class="proposal">
          proposed <b class="mono">{{ n.proposal }}</b>
        </p>
      </div>
      <code class="mono soft pattern" :title="n.pattern">{{ n.pattern }}</code>
    </div>
    <p v-if="state.names.length === 0" class="soft row">Nothing here is named by a pattern.</p>
  </div>
</template>

<style scoped>
.names {
  overflow: auto;
  margin: 12px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.row {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) minmax(0, 190px);
  gap: 12px;
  align-items: start;
  padding: 10px 14px;
  border-bottom: 1px solid var(--hair);
}
.row.marked {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--tide);
}
.what {
  padding-top: 3px;
}
.name {
  font-size: 14px;
  display: flex;
  flex-wrap: wrap;
  row-gap: 4px;
}
.stretch {
  display: inline-grid;
  padding: 2px 1px;
  border-radius: 2px;
  justify-items: center;
}
.stretch small {
  font: 500 11px/1.2 var(--narrow);
  color: var(--ink);
}
.stretch.wrong {
  border-bottom: 2px solid var(--stop);
  color: var(--stop);
}
.stretch.wrong small {
  color: var(--stop);
}
.proposal {
  margin-top: 4px;
  color: var(--soft);
}
.proposal b {
  color: var(--clear);
  font-weight: 500;
}
.pattern {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 11px;
  padding-top: 5px;
}
</style>
