<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { NVirtualList } from 'naive-ui'
import { inputWords } from '@stern-gate/core/pairing'
import { fileName } from '@stern-gate/core/paths'
import { blobAddress } from '../../api/client'
import { DRAGGED_TEXTURE } from './draggedTexture'
import EndsOfName from './EndsOfName.vue'
import { usePairing } from '../../stores/pairing'

// Textures that no cell has, to drag from; a click gives one to the cell that has the focus
const pairing = usePairing()
const words = ref('')
const field = ref<HTMLInputElement | null>(null)

const all = computed(() =>
  pairing.pairing.tray.flatMap(({ texture, note }) => {
    const found = pairing.textures.get(texture)
    return found ? [{ key: texture, name: fileName(found.path), path: found.path, note }] : []
  }),
)
const asked = computed(() => words.value.trim().toLowerCase().split(/\s+/).filter(Boolean))
/** Searching looks at every texture, those that a cell has among them. */
const shown = computed(() => {
  if (asked.value.length === 0) return all.value
  const notes = new Map(all.value.map((t) => [t.key, t.note]))
  return [...pairing.textures.values()]
    .filter((t) => asked.value.every((w) => t.path.toLowerCase().includes(w)))
    .map((t) => ({ key: t.id, name: fileName(t.path), path: t.path, note: notes.get(t.id) ?? 'in use' }))
})
const rows = computed(() =>
  Array.from({ length: Math.ceil(shown.value.length / 2) }, (_, i) => ({
    key: shown.value[i * 2]!.key,
    pair: shown.value.slice(i * 2, i * 2 + 2),
  })),
)
const picture = (id: string): string | null => {
  const sha = pairing.table?.thumbnails[id]
  return sha ? blobAddress(sha) : null
}
const target = computed(() => pairing.focus)
function give(id: string | undefined): void {
  if (id === undefined || !target.value) return
  void pairing.choose(target.value, id)
  words.value = ''
}
const drag = (event: DragEvent, id: string): void => event.dataTransfer?.setData(DRAGGED_TEXTURE, id)
function leave(): void {
  words.value = ''
  field.value?.blur()
}
defineExpose({ find: () => void nextTick(() => field.value?.focus()) })
</script>

<template>
  <section class="tray" aria-label="Tray">
    <h2>
      <span>Tray: {{ all.length }} {{ all.length === 1 ? 'texture' : 'textures' }} that no cell has</span>
    </h2>
    <input
      ref="field"
      v-model="words"
      class="find"
      type="search"
      placeholder="Find a texture  /"
      aria-label="Find a texture"
      @keydown.enter.stop.prevent="give(shown[0]?.key)"
      @keydown.esc.stop="leave"
      @keydown.stop
    />
    <NVirtualList class="list" :items="rows" :item-size="46" key-field="key">
      <template #default="{ item }">
        <div :key="item.key" class="pair">
          <button
            v-for="t in item.pair"
            :key="t.key"
            class="texture"
            draggable="true"
            :title="`${t.path}${target ? `: give it to ${inputWords[target.input]}` : ''}`"
            :data-texture="t.name"
            @dragstart="drag($event, t.key)"
            @click="give(t.key)"
          >
            <img v-if="picture(t.key)" :src="picture(t.key)!" alt="" loading="lazy" draggable="false" />
            <i v-else />
            <span
              ><EndsOfName class="mono" :name="t.name.replace(/\.[^.]*$/, '')" /><small>{{
                t.note
              }}</small></span
            >
          </button>
        </div>
      </template>
    </NVirtualList>
    <p v-if="shown.length === 0" class="soft">
      {{ asked.length > 0 ? 'No texture is called so.' : 'Every texture has its cell.' }}
    </p>
  </section>
</template>

<style scoped>
.tray {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 8px 12px;
  gap: 7px;
}
h2 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
}
.find {
  padding: 5px 7px;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
}
.list {
  flex: 1;
  min-height: 0;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  height: 46px;
  padding-bottom: 6px;
}
.texture {
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr);
  gap: 7px;
  align-items: center;
  border: 1px solid var(--line);
  background: var(--sheet);
  border-radius: 3px;
  padding: 4px 5px;
  min-width: 0;
  text-align: left;
  cursor: grab;
}
.texture:hover {
  border-color: var(--tide);
}
.texture img,
.texture i {
  width: 30px;
  height: 30px;
  object-fit: cover;
  background: var(--stage);
}
.texture span {
  min-width: 0;
}
.texture .mono {
  font-size: 11px;
}
small {
  display: block;
  font: 500 11px/1.2 var(--narrow);
  color: var(--soft);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
p {
  padding: 4px 0;
}
</style>
