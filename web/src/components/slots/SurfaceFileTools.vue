<script setup lang="ts">
import { ref } from 'vue'
import { SURFACE_ENDING, type BenchTexture, type SlotFacts, type SurfaceFile } from '@stern-gate/contract'
import { saveAsJson } from '../../api/saveAs'
import { readSurfaceFile, surfaceFileOf } from '@stern-gate/core/surfaces'

// A surface as a file: written beside the mesh, saved by itself, read into this slot
const props = defineProps<{
  slotFacts: SlotFacts
  textures: readonly BenchTexture[]
  locked: boolean
  /** Whether the output has surface files. */
  written: boolean
}>()
const emit = defineEmits<{ take: [SurfaceFile]; write: [boolean] }>()
const trouble = ref(''),
  over = ref(false)

async function read(file: File | undefined): Promise<void> {
  over.value = false
  if (!file || props.locked) return
  const found = readSurfaceFile(await file.text())
  trouble.value = found.ok ? '' : `${found.fault.why} ${found.fault.hint}`
  if (found.ok) emit('take', found.value)
}
function choose(event: Event): void {
  const input = event.target as HTMLInputElement
  void read(input.files?.[0])
  input.value = ''
}
/** What feeds the slot, by the field of its input: textures inside the mesh have no file. */
function save(): void {
  const { slotFacts, textures } = props
  const names = new Map(
    slotFacts.textures.flatMap(({ image, field }) => {
      const fed = textures.find((t) => t.uses.some((u) => u.slot === slotFacts.name && u.field === field))
      return image !== null && fed ? [[image, fed.name] as const] : []
    }),
  )
  saveAsJson(
    `${slotFacts.name}${SURFACE_ENDING}`,
    surfaceFileOf(slotFacts, (image) => names.get(image) ?? null),
  )
}
</script>

<template>
  <div
    class="files"
    :class="{ over }"
    data-surface-file
    @dragover.prevent.stop="over = true"
    @dragleave="over = false"
    @drop.prevent.stop="(e) => read(e.dataTransfer?.files[0])"
  >
    <label
      class="btn"
      :class="{ off: locked }"
      title="Values, placements, tints and second layer of a .surface.json"
    >
      Read a file …
      <input type="file" accept=".json,application/json" :disabled="locked" @change="choose" />
    </label>
    <button class="btn" @click="save">Save as a file</button>
    <label class="beside" title="The surface of each slot, as a JSON file beside the mesh of the output">
      <input
        type="checkbox"
        :checked="written"
        :disabled="locked"
        data-write-surfaces
        @change="emit('write', ($event.target as HTMLInputElement).checked)"
      />
      files beside the mesh
    </label>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.files {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  margin-top: 6px;
  border-radius: 3px;
}
.files.over {
  outline: 2px dashed var(--line);
}
.btn {
  padding: 2px 8px;
  font-size: 12px;
}
.btn.off {
  opacity: 0.5;
}
input[type='file'] {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.beside {
  display: flex;
  align-items: center;
  gap: 4px;
  font: 500 12px/1.5 var(--narrow);
  color: var(--soft);
}
p {
  width: 100%;
  margin: 0;
  color: var(--caution);
  font-size: 12px;
}
</style>
