<script setup lang="ts">
import { computed } from 'vue'
import type { PairingCell as Cell, TextureRole } from '@stern-gate/contract'
import { blobAddress } from '../../api/client'
import LevelShape from '../../marks/LevelShape.vue'
import type { LevelState } from '../../marks/levelShapes'
import LongName from '../../marks/LongName.vue'
import { usePairing, type PairingLine } from '../../stores/pairing'
import PairingCell from './PairingCell.vue'
import { presetColour } from './presetColour'

// One slot with a cell for each input
const props = defineProps<{ line: PairingLine; grid: string; focused: TextureRole | null }>()
const emit = defineEmits<{ focus: [input: TextureRole] }>()
const pairing = usePairing()

const cells = computed<Cell[]>(() => [...props.line.cells.values()])
const state = computed<LevelState>(() => {
  const open = cells.value.filter((c) => !pairing.isChosen(c))
  if (open.some((c) => c.state === 'found' && c.rivals.length > 0) || open.some((c) => c.wrongInput))
    return 'stop'
  if (open.some((c) => c.state === 'open')) return 'caution'
  return open.some((c) => c.state === 'found' && c.confidence < pairing.accept) ? 'note' : 'clear'
})
const words: Partial<Record<LevelState, string>> = {
  stop: 'two slots want one texture, or a texture is something else',
  caution: 'a cell is open',
  note: 'a cell is less sure than what is accepted',
  clear: 'nothing to decide',
}
/** The slot as a ball: its base colour's picture, else its value. */
const ball = computed(() => {
  const { texture: base, preset } = props.line.cells.get('basecolor') ?? {},
    sha = base ? pairing.table?.thumbnails[base] : undefined
  const [r, g, b] = pairing.table?.colours[props.line.slot.id] ?? [119, 119, 119]
  if (preset) return { backgroundColor: presetColour(preset) }
  return sha
    ? { backgroundImage: `url(${blobAddress(sha)})`, backgroundSize: 'cover' }
    : { backgroundColor: `rgb(${r} ${g} ${b})` }
})
</script>

<template>
  <div
    class="row"
    role="row"
    :class="{ on: focused !== null }"
    :style="{ gridTemplateColumns: grid }"
    :data-slot="line.slot.slot"
  >
    <span class="name" role="rowheader" @click="emit('focus', pairing.columns[0]!)">
      <i class="ball" :style="ball" aria-hidden="true" />
      <span class="words">
        <LongName class="mono" :name="line.slot.slot" />
        <LongName class="asset" :name="line.slot.asset" />
      </span>
      <span class="mark" :title="words[state]"
        ><LevelShape :state="state" /><span class="visually-hidden">{{ words[state] }}</span></span
      >
    </span>
    <PairingCell
      v-for="input in pairing.columns"
      :key="input"
      :slot-id="line.slot.id"
      :input="input"
      :cell="line.cells.get(input)"
      :focused="focused === input"
      :narrow="pairing.narrow.has(input)"
      @focus="emit('focus', input)"
    />
  </div>
</template>

<style scoped>
.row {
  display: grid;
  align-items: center;
  height: 52px;
  padding: 0 16px;
  border-bottom: 1px solid var(--hair);
}
.on {
  background: var(--wash);
  box-shadow: inset 3px 0 0 var(--tide);
}
.name {
  display: flex;
  gap: 9px;
  align-items: center;
  min-width: 0;
  cursor: default;
}
.ball {
  width: 32px;
  height: 32px;
  border-radius: 50%;
  flex: none;
  position: relative;
  overflow: hidden;
}
.ball::after {
  content: '';
  position: absolute;
  inset: 0;
  border-radius: 50%;
  background: radial-gradient(
    circle at 34% 30%,
    rgb(255 255 255 / 0.45),
    rgb(255 255 255 / 0) 45%,
    rgb(0 0 0 / 0.6) 100%
  );
}
.words {
  min-width: 0;
  flex: 1;
  display: grid;
}
.asset {
  font: 400 11px/1.25 var(--narrow);
  color: var(--soft);
}
.mark {
  padding-right: 12px;
}
</style>
