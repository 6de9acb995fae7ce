<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import { NVirtualList } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import type { TextureRole } from '@stern-gate/contract'
import { inputWords } from '@stern-gate/core/pairing'
import LineView from '../components/pairing/LineView.vue'
import PairingRow from '../components/pairing/PairingRow.vue'
import TextureTray from '../components/pairing/TextureTray.vue'
import WhyThis from '../components/pairing/WhyThis.vue'
import { isTyping, useWindowKey } from '../keys/useWindowKey'
import { useArrivals } from '../stores/arrivals'
import { inTurn } from '../stores/inTurn'
import { usePairing, type PairingLine } from '../stores/pairing'
import { useProject } from '../stores/project'

// A whole delivery: one line a slot, a column an input, what asks for a decision first
const LINE = 52,
  REFRESH_MS = 800
const route = useRoute()
const router = useRouter()
const project = useProject()
const arrivals = useArrivals()
const pairing = usePairing()
const list = useTemplateRef<InstanceType<typeof NVirtualList>>('list')
const tray = useTemplateRef<InstanceType<typeof TextureTray>>('tray')
const loading = ref(true)

const delivery = computed(() =>
  typeof route.query['delivery'] === 'string' ? route.query['delivery'] : null,
)
watch(
  [() => project.openId, delivery],
  async ([id, of]) => {
    if (id === null || route.name !== 'pairing') return
    loading.value = true
    await pairing.load(of)
    loading.value = false
  },
  { immediate: true },
)
// Once there are lines, one has the focus
watch(
  () => pairing.focus === null && pairing.lines.length > 0,
  (lost) => lost && focusFirst(),
)
onMounted(() => {
  document.title = 'Pairing · Stern Gate'
  arrivals.refresh()
})
const refreshSoon = inTurn(REFRESH_MS, pairing.refresh)
const stop = project.onEvent((event) => {
  if ((event.kind === 'asset' || event.kind === 'rulebook') && !pairing.busy) refreshSoon()
})
onBeforeUnmount(stop)

const grid = computed(
  () =>
    `minmax(170px, 212px) ${pairing.columns.map((c) => (pairing.narrow.has(c) ? '58px' : 'minmax(0, 1fr)')).join(' ')}`,
)
const rows = computed(() => pairing.lines.map((line) => ({ key: line.slot.id, line })))
const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`
const summary = computed(() => {
  const { fed, open, conflicts } = pairing.counts
  return [
    count(pairing.table?.textures.length ?? 0, 'texture'),
    count(pairing.lines.length, 'slot'),
    `${count(fed, 'cell')} fed, ${open} open, ${conflicts} in conflict`,
  ].join(' · ')
})
const recent = computed(() => arrivals.deliveries.filter((d) => d.state === 'done').slice(0, 12))
function choose(event: Event): void {
  const id = (event.target as HTMLSelectElement).value
  void router.replace({ name: 'pairing', params: route.params, query: id === '' ? {} : { delivery: id } })
}

function focusOn(line: PairingLine | undefined, input: TextureRole | undefined): void {
  if (!line || !input) return
  pairing.focus = { slot: line.slot.id, input }
  void nextTick(() => list.value?.scrollTo({ key: line.slot.id }))
}
/** The first cell of a line that asks for something, else its first. */
const firstOf = (line: PairingLine): TextureRole | undefined =>
  pairing.columns.find((input) => {
    const cell = line.cells.get(input)
    return cell && (cell.state === 'open' || cell.rivals.length > 0)
  }) ?? pairing.columns[0]
function focusFirst(): void {
  const [line] = pairing.lines
  if (line) focusOn(line, firstOf(line))
}
function move(down: number, right: number): void {
  const at = pairing.focus
  if (!at) return focusFirst()
  const line = pairing.lines.findIndex((l) => l.slot.id === at.slot),
    column = pairing.columns.indexOf(at.input)
  focusOn(
    pairing.lines[Math.min(pairing.lines.length - 1, Math.max(0, line + down))],
    pairing.columns[Math.min(pairing.columns.length - 1, Math.max(0, column + right))],
  )
}
async function acceptLine(): Promise<void> {
  const at = pairing.focus
  if (!at) return
  await pairing.acceptLine(at.slot)
  focusNext(at.slot)
}
/** The next line, and round again, that has something to accept; else one that is open; else the next. */
function focusNext(after: string): void {
  const { lines } = pairing,
    at = lines.findIndex((l) => l.slot.id === after)
  const round = [...lines.slice(at + 1), ...lines.slice(0, at + 1)]
  const has = (line: PairingLine, state: 'found' | 'open'): boolean =>
    [...line.cells.values()].some((c) => c.state === state && !pairing.isChosen(c))
  const line = round.find((l) => has(l, 'found')) ?? round.find((l) => has(l, 'open')) ?? round[0]
  focusOn(line, line && firstOf(line))
}
const keys: Record<string, () => void> = {
  ArrowDown: () => move(1, 0),
  ArrowUp: () => move(-1, 0),
  ArrowRight: () => move(0, 1),
  ArrowLeft: () => move(0, -1),
  '1': () => void pairing.take(1),
  '2': () => void pairing.take(2),
  '3': () => void pairing.take(3),
  '/': () => tray.value?.find(),
}
useWindowKey((event) => {
  if (isTyping(event)) return
  const control = event.ctrlKey || event.metaKey
  if (event.key === 'z' && control) {
    event.preventDefault()
    void pairing.undo()
    return
  }
  if (control || event.altKey) return
  if (event.key === 'Enter') {
    if ((event.target as HTMLElement).closest('button, a, select, input')) return
    event.preventDefault()
    void (event.shiftKey ? pairing.acceptSure() : acceptLine())
    return
  }
  const act = keys[event.key]
  if (!act) return
  event.preventDefault()
  act()
})
</script>

<template>
  <div class="pairing">
    <header>
      <h1>Pairing</h1>
      <select class="scope" :value="delivery ?? ''" aria-label="What is paired" @change="choose">
        <option value="">All that waits</option>
        <option v-for="d in recent" :key="d.id" :value="d.id">Delivery {{ d.number }}</option>
      </select>
      <span class="soft" data-summary>{{ summary }}</span>
      <span class="gap" />
      <label class="from">
        accept from
        <input
          v-model.number="pairing.accept"
          type="range"
          min="0.5"
          max="0.99"
          step="0.01"
          aria-label="Confidence from which cells are accepted"
        />
        <b class="mono">{{ pairing.accept.toFixed(2) }}</b>
      </label>
      <button
        class="btn"
        :disabled="pairing.past.length === 0 || pairing.busy"
        title="Ctrl Z"
        data-undo
        @click="pairing.undo"
      >
        Undo
      </button>
      <button
        v-if="pairing.surfaces.length > 0"
        class="btn"
        :disabled="pairing.busy"
        title="Slots without textures become what their names say, by values alone"
        data-accept-surfaces
        @click="pairing.acceptSurfaces"
      >
        Accept {{ count(pairing.surfaces.length, 'surface') }} of values
      </button>
      <button
        class="btn go"
        :disabled="pairing.sure.length === 0 || pairing.busy"
        data-accept
        @click="pairing.acceptSure"
      >
        Accept {{ count(pairing.sure.length, 'cell') }} <kbd>⇧ ↵</kbd>
      </button>
    </header>
    <div class="body">
      <section class="left" role="grid" aria-label="Slots and their inputs" :aria-rowcount="rows.length">
        <div class="columns" role="row" :style="{ gridTemplateColumns: grid }">
          <span role="columnheader">Slot</span>
          <span v-for="input in pairing.columns" :key="input" role="columnheader">{{
            inputWords[input]
          }}</span>
        </div>
        <p v-if="loading || !pairing.table" class="none soft" role="status">Looking at names and pixels …</p>
        <p v-else-if="rows.length === 0" class="none soft">
          No slot waits for a texture. Deliver meshes with their textures at Arrivals; what does not find its
          slot by itself is paired here.
        </p>
        <NVirtualList v-else ref="list" class="list" :items="rows" :item-size="LINE" key-field="key">
          <template #default="{ item }">
            <PairingRow
              :key="item.key"
              :line="item.line"
              :grid="grid"
              :focused="pairing.focus?.slot === item.key ? pairing.focus!.input : null"
              @focus="pairing.focus = { slot: item.key, input: $event }"
            />
          </template>
        </NVirtualList>
        <p v-if="pairing.table && pairing.table.left > 0" class="told">
          {{ pairing.table.left }} more meshes and texture sets wait; the newest are shown.
        </p>
        <WhyThis />
      </section>
      <aside>
        <LineView class="view" />
        <TextureTray ref="tray" class="tray" />
      </aside>
    </div>
  </div>
</template>

<style scoped src="./viewHead.css"></style>
<style scoped>
.pairing {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.scope {
  padding: 4px 6px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
}
.from {
  display: flex;
  gap: 8px;
  align-items: center;
  font: 500 12px/1 var(--narrow);
  color: var(--soft);
}
.from b {
  color: var(--ink);
  width: 30px;
}
.from input {
  width: 150px;
  appearance: none;
  height: 16px;
  background:
    repeating-linear-gradient(90deg, var(--ink) 0 1px, transparent 1px 15px) center / 100% 4px no-repeat,
    linear-gradient(var(--line), var(--line)) center / 100% 2px no-repeat;
}
.from input::-webkit-slider-thumb {
  appearance: none;
  width: 3px;
  height: 16px;
  background: var(--tide);
  cursor: ew-resize;
}
.from input::-moz-range-thumb {
  width: 3px;
  height: 16px;
  border: 0;
  border-radius: 0;
  background: var(--tide);
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.columns {
  display: grid;
  align-items: center;
  height: 34px;
  padding: 0 16px;
  flex: none;
  border-bottom: 1px solid var(--line);
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
}
.columns span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.columns span::first-letter {
  text-transform: uppercase;
}
.list {
  flex: 1;
  min-height: 0;
}
.none {
  flex: 1;
  padding: 22px 18px;
}
.told {
  padding: 6px 18px;
  border-top: 1px solid var(--line);
  background: var(--wash);
}
aside {
  border-left: 1px solid var(--line);
  display: grid;
  grid-template-rows: 268px minmax(0, 1fr);
  min-height: 0;
}
.tray {
  border-top: 1px solid var(--line);
}
.go kbd {
  color: inherit;
  background: none;
  border-color: currentColor;
  opacity: 0.8;
}
</style>
