<script setup lang="ts">
import { computed, ref } from 'vue'
import type { PairingCell, TextureRole } from '@stern-gate/contract'
import { inputWords } from '@stern-gate/core/pairing'
import { blobAddress } from '../../api/client'
import { DRAGGED_TEXTURE } from './draggedTexture'
import EndsOfName from './EndsOfName.vue'
import { presetColour } from './presetColour'
import { usePairing } from '../../stores/pairing'

// One input of one slot: the texture with its confidence as the water on a staff; takes what is dropped on it
const props = defineProps<{
  slotId: string
  input: TextureRole
  cell: PairingCell | undefined
  focused: boolean
  narrow: boolean
}>()
const emit = defineEmits<{ focus: [] }>()
const pairing = usePairing()
const over = ref(false)

const byHand = computed(() => props.cell !== undefined && pairing.isChosen(props.cell))
const picture = computed(() => {
  const sha = props.cell?.texture ? pairing.table?.thumbnails[props.cell.texture] : undefined
  return sha ? blobAddress(sha) : null
})
/** The colour of a surface of values, where that stands in the place of a texture. */
const swatch = computed(() => {
  const { preset } = props.cell ?? {}
  return preset ? { background: presetColour(preset) } : {}
})
const stem = computed(() => (props.cell?.name ?? '').replace(/\.[^.]*$/, ''))
const said = computed(() => {
  const { cell } = props
  if (!cell) return ''
  if (byHand.value) return cell.texture === null && cell.preset === null ? 'left open' : 'by hand'
  if (cell.state === 'wired') return 'fed'
  if (cell.state === 'open') return cell.others.length > 0 ? `${cell.others.length} near` : 'nothing near'
  const shared = cell.rivals.length > 0 ? ` · ${cell.rivals.length + 1} want` : ''
  return `${cell.confidence.toFixed(2)}${shared}`
})
const wrong = computed(() =>
  props.cell?.wrongInput ? `Its pixels look like ${inputWords[props.cell.wrongInput]}` : '',
)
function drop(event: DragEvent): void {
  over.value = false
  const id = event.dataTransfer?.getData(DRAGGED_TEXTURE)
  if (!id) return
  emit('focus')
  void pairing.choose({ slot: props.slotId, input: props.input }, id)
}
function drag(event: DragEvent): void {
  if (props.cell?.texture) event.dataTransfer?.setData(DRAGGED_TEXTURE, props.cell.texture)
}
</script>

<template>
  <div
    class="cell"
    role="gridcell"
    :class="{
      focused,
      over,
      empty: !cell,
      open: cell?.state === 'open',
      fed: cell?.state === 'wired' && !byHand,
    }"
    :aria-label="`${inputWords[input]}: ${cell ? `${cell.name || 'open'}, ${said}` : 'not asked for'}`"
    :data-cell="input"
    :data-state="cell?.state"
    :title="narrow && cell ? `${cell.name || 'open'}, ${said}` : undefined"
    :draggable="!!cell?.texture"
    @dragstart="drag"
    @click="emit('focus')"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent.stop="drop"
  >
    <template v-if="cell">
      <span class="staff" :class="{ low: cell.rivals.length > 0, dashed: cell.state === 'open' }">
        <i v-if="cell.state !== 'open'" :style="{ height: `${Math.round(cell.confidence * 100)}%` }" />
      </span>
      <span class="picture" :class="{ dashed: cell.state === 'open' && !cell.preset }" :style="swatch">
        <img v-if="picture" :src="picture" alt="" loading="lazy" draggable="false" />
      </span>
      <span v-if="!narrow" class="text">
        <EndsOfName v-if="stem" class="mono" :name="stem" :title="cell.name" />
        <span v-else class="mono soft">open</span>
        <small :class="{ wrong }" :title="wrong || undefined">{{
          wrong ? `looks like ${inputWords[cell.wrongInput!]}` : said
        }}</small>
      </span>
    </template>
  </div>
</template>

<style scoped>
.cell {
  display: grid;
  grid-template-columns: 7px 34px minmax(0, 1fr);
  gap: 6px;
  align-items: center;
  height: 44px;
  padding: 3px 5px 3px 2px;
  border: 1px solid transparent;
  border-radius: 3px;
  min-width: 0;
  cursor: default;
}
.cell:not(.empty):hover {
  background: var(--wash);
}
.focused {
  border-color: var(--tide);
  background: var(--sheet);
}
.over {
  border: 1px dashed var(--tide);
  background: var(--wash);
}
.staff {
  width: 7px;
  height: 34px;
  border: 1px solid var(--soft);
  position: relative;
  background: var(--sheet);
}
.staff i {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  background: var(--tide);
}
.staff.low i {
  background: var(--caution);
}
.staff::after {
  content: '';
  position: absolute;
  inset: 0;
  background: repeating-linear-gradient(0deg, transparent 0 7px, var(--soft) 7px 8px);
  opacity: 0.55;
}
.dashed {
  border: 1px dashed var(--soft);
}
.picture {
  width: 34px;
  height: 34px;
  border-radius: 2px;
  background: var(--stage);
  overflow: hidden;
}
.picture.dashed {
  background: none;
}
.picture img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  display: block;
}
.text {
  min-width: 0;
  display: grid;
  line-height: 1.25;
}
.text .mono {
  font-size: 11px;
}
small {
  font: 500 11px/1.2 var(--narrow);
  color: var(--soft);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
small.wrong {
  color: var(--stop);
}
.fed .picture img,
.fed .staff {
  opacity: 0.75;
}
</style>
