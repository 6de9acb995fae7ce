<script setup lang="ts">
import { countOf } from '@stern-gate/core/numbers'
import { onMounted, ref } from 'vue'
import { NVirtualList } from 'naive-ui'
import { RENAME, useBulk } from '../../stores/bulk'
import { useProject } from '../../stores/project'
import { useRenames, type RenameRow, type RenameTrouble } from '../../stores/renames'

// Every name that would change, with what goes along, before any of it is done
const emit = defineEmits<{ close: [] }>()
const bulk = useBulk()
const project = useProject()
const box = ref<HTMLElement | null>(null)
const { rows, reading, trouble, read, troubleOf, chosen, follows, ready, steps } = useRenames()
/** So many assets are looked over at once. */
const AT_ONCE = 5000
const opened = ref<string | null>(null)

const troubles: Record<NonNullable<RenameTrouble>, string> = {
  empty: 'a name is wanted',
  letters: 'letters that no file may hold',
  twice: 'this name is given twice',
}
const followWord = (row: RenameRow): string =>
  row.follows.length === 0
    ? 'nothing goes along'
    : `${row.follows.length} ${row.follows.length === 1 ? 'goes' : 'go'} along`
const beginsAsset = (i: number): boolean => rows.value[i]?.asset !== rows.value[i - 1]?.asset
const extensionOf = (row: RenameRow): string =>
  row.what === 'texture' ? (/\.[^.]+$/.exec(row.from)?.[0] ?? '') : ''

onMounted(async () => {
  box.value?.focus()
  await read(project.openId!, [...bulk.chosen].slice(0, AT_ONCE))
})
async function apply(): Promise<void> {
  await bulk.applySteps(RENAME, steps())
  emit('close')
}
const setAll = (on: boolean): void => {
  for (const row of rows.value) row.on = on
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <section ref="box" class="box" role="dialog" aria-label="Rename many" tabindex="-1">
      <header>
        <h2>{{ reading ? 'Gathering the names …' : `${countOf(chosen.length, 'name')} to change` }}</h2>
        <span v-if="follows > 0" class="soft">{{ countOf(follows, 'name') }} and references go along</span>
        <span v-if="bulk.chosen.size > AT_ONCE" class="soft"
          >of the first {{ AT_ONCE }} of {{ bulk.chosen.size }} assets; rename the others after these</span
        >
        <span class="gap" />
        <button class="btn" :disabled="rows.length === 0" @click="setAll(true)">All</button
        ><button class="btn" :disabled="rows.length === 0" @click="setAll(false)">None</button>
      </header>
      <p v-if="trouble" class="soft pad" role="alert">{{ trouble }}</p>
      <p v-else-if="!reading && rows.length === 0" class="soft pad">
        No name of the chosen assets has a proposal.
      </p>
      <NVirtualList
        v-else
        class="list"
        :items="rows.map((row, index) => ({ row, index, key: row.key }))"
        :item-size="31"
        item-resizable
      >
        <template #default="{ item: { row, index } }: { item: { row: RenameRow; index: number } }">
          <div :key="row.key" class="item">
            <h3 v-if="beginsAsset(index)" class="mono">{{ row.assetName }}</h3>
            <div class="row" :class="{ off: !row.on }">
              <input v-model="row.on" type="checkbox" :aria-label="`Rename ${row.from}`" />
              <span class="kind">{{ row.what }}</span>
              <span class="mono from" :title="row.from">{{ row.from }}</span>
              <span aria-hidden="true">→</span>
              <span class="to"
                ><input
                  v-model="row.to"
                  class="mono"
                  :class="{ bad: troubleOf(row) }"
                  :disabled="!row.on"
                  :aria-label="`New name of ${row.from}`"
                  :aria-invalid="troubleOf(row) !== null"
                  spellcheck="false"
                /><span class="mono soft">{{ extensionOf(row) }}</span></span
              >
              <span v-if="troubleOf(row)" class="wrong">{{ troubles[troubleOf(row)!] }}</span>
              <button
                v-else
                class="along"
                :disabled="row.follows.length === 0"
                :aria-expanded="opened === row.key"
                @click="opened = opened === row.key ? null : row.key"
              >
                {{ followWord(row) }}{{ row.follows.length > 0 ? (opened === row.key ? ' ▴' : ' ▾') : '' }}
              </button>
            </div>
            <ul v-if="opened === row.key" class="follows">
              <li v-for="(f, i) in row.follows" :key="i">
                <span class="kind">{{ f.what }}</span><span class="mono">{{ f.from }}</span
                ><span class="mono">{{
                  f.what === 'node' && row.what === 'slot'
                    ? `wears ${row.to}`
                    : f.what === 'clip'
                      ? 'moves it by the new name'
                      : f.what === 'reference'
                        ? `points at ${row.to}${f.rest}`
                        : `→ ${row.to}${f.rest}`
                }}</span>
              </li>
            </ul>
          </div>
        </template>
      </NVirtualList>
      <footer>
        <button class="btn go" :disabled="!ready || bulk.busy" data-apply @click="apply">
          Rename {{ chosen.length }}</button
        ><span class="soft">One step each in the recipes; one undo takes all of it back.</span
        ><span class="gap" /><button class="btn" @click="emit('close')">Close <kbd>Esc</kbd></button>
      </footer>
    </section>
  </div>
</template>

<style scoped src="../dialog.css" />
<style scoped>
.box {
  background: var(--paper);
  width: min(1040px, 94vw);
  height: min(640px, 86vh);
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  overflow: hidden;
}
header,
footer {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 12px 16px;
}
header {
  border-bottom: 1px solid var(--line);
}
footer {
  border-top: 1px solid var(--line);
}
h2 {
  font: 600 15px/1.2 var(--text);
}
h3 {
  font: 500 12.5px/1 var(--mono);
  padding: 12px 16px 5px;
}
.gap {
  flex: 1;
}
.pad {
  padding: 16px;
}
.list {
  background: var(--sheet);
}
.row {
  display: grid;
  grid-template-columns: 18px 56px minmax(0, 1fr) 16px minmax(0, 1.15fr) 150px;
  align-items: center;
  gap: 8px;
  padding: 2px 16px;
  min-height: 29px;
}
.row.off {
  color: var(--soft);
}
.kind {
  font: 500 12px/1 var(--narrow);
  color: var(--soft);
}
.from {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 12px;
}
.to {
  display: flex;
  align-items: center;
  gap: 2px;
  min-width: 0;
  font-size: 12px;
}
.to input {
  flex: 1;
  min-width: 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  padding: 3px 6px;
  font-size: 12px;
}
.to input.bad {
  border-color: var(--stop);
}
.wrong {
  color: var(--stop);
  font: 500 12px/1.2 var(--narrow);
}
.along {
  border: 0;
  background: none;
  color: var(--tide);
  font: 500 12px/1 var(--narrow);
  text-align: right;
  cursor: pointer;
  padding: 4px 0;
}
.along:disabled {
  color: var(--soft);
  cursor: default;
}
.follows {
  list-style: none;
  margin: 0 16px 6px 98px;
  padding: 4px 0 6px 10px;
  border-left: 2px solid var(--line);
  font-size: 12px;
}
.follows li {
  display: grid;
  grid-template-columns: 66px minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px;
  padding: 2px 0;
}
.follows .mono {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
