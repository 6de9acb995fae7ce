<script setup lang="ts">
import { computed, ref } from 'vue'
import type {
  AssetState,
  BenchTexture,
  RemedyOptions,
  SlotFacts,
  SlotInput,
  TextureRole,
} from '@stern-gate/contract'
import { inputWords } from '@stern-gate/core/surfaces'
import { pictureAddress } from '../../api/client'
import EndsOfName from '../pairing/EndsOfName.vue'

// Which texture feeds what: changed by choosing, or by dragging one of the asset's textures onto an input
const props = defineProps<{ state: AssetState; slotFacts: SlotFacts; locked: boolean }>()
const emit = defineEmits<{ step: [remedy: string, options: RemedyOptions] }>()

/** Inputs that the packed map feeds, or parts of it. */
const packedInputs: readonly SlotInput[] = ['orm', 'metallic-roughness', 'occlusion']
/** Opacity lives in the alpha of the base colour: something can be given to it, nothing feeds it by itself. */
const offered: readonly TextureRole[] = ['basecolor', 'normal', 'orm', 'emissive', 'opacity']
interface Row {
  role: TextureRole
  word: string
  texture: BenchTexture | null
  channel: number | null
}
const rows = computed<Row[]>(() =>
  offered.map((role): Row => {
    const use = props.slotFacts.textures.find((t) =>
      role === 'orm' ? packedInputs.includes(t.input) : t.input === role,
    )
    const texture = props.state.textures.find((t) =>
      t.uses.some((u) => use && u.slot === props.slotFacts.name && u.field === use.field),
    )
    return {
      role,
      word: role === 'orm' ? 'occlusion, roughness, metallic' : inputWords[role],
      texture: texture ?? null,
      channel: use?.channel ?? null,
    }
  }),
)
const over = ref<TextureRole | null>(null)
const TYPE = 'application/x-stern-own-texture'
function drag(event: DragEvent, texture: BenchTexture): void {
  event.dataTransfer?.setData(TYPE, texture.name)
}
function drop(event: DragEvent, role: TextureRole): void {
  over.value = null
  const name = event.dataTransfer?.getData(TYPE)
  if (name && !props.locked) give(role, name)
}
/** A single map goes to its own input of the packed three. */
function give(role: TextureRole, name: string): void {
  const texture = props.state.textures.find((t) => t.name === name)
  if (!texture) return
  const single = texture.role
  const to =
    role === 'orm' && (single === 'occlusion' || single === 'roughness' || single === 'metallic')
      ? single
      : role
  emit('step', 'slots/feed', { slot: props.slotFacts.name, [to]: name })
}
</script>

<template>
  <section class="inputs">
    <h3>Textures</h3>
    <div
      v-for="r in rows"
      :key="r.role"
      class="input"
      :class="{ over: over === r.role }"
      :data-input="r.role"
      @dragover.prevent="over = r.role"
      @dragleave="over = null"
      @drop.prevent="drop($event, r.role)"
    >
      <span class="picture" :class="{ empty: !r.texture }"
        ><img v-if="r.texture && pictureAddress(r.texture)" :src="pictureAddress(r.texture)!" alt=""
      /></span>
      <span class="what"
        ><span class="word soft"
          >{{ r.word }}<template v-if="r.channel"> · UV{{ r.channel }}</template></span
        >
        <select
          class="field mono"
          :value="r.texture?.name ?? ''"
          :disabled="locked || state.textures.length === 0"
          :aria-label="`${r.word}: texture`"
          @change="give(r.role, ($event.target as HTMLSelectElement).value)"
        >
          <option value="" disabled>{{ r.role === 'opacity' ? 'in the base colour' : 'none' }}</option>
          <option v-for="t in state.textures" :key="t.name" :value="t.name">{{ t.name }}</option>
        </select></span
      >
    </div>
    <div
      v-if="state.textures.length > 0 && !locked"
      class="strip"
      aria-label="Textures of the asset, to drag"
    >
      <span
        v-for="t in state.textures"
        :key="t.name"
        class="mine"
        :title="`${t.name}: drag it onto an input`"
        draggable="true"
        :data-own-texture="t.name"
        @dragstart="drag($event, t)"
        ><img v-if="pictureAddress(t)" :src="pictureAddress(t)!" alt="" draggable="false" /><EndsOfName
          v-else
          :name="t.name"
      /></span>
    </div>
  </section>
</template>

<style scoped>
.inputs {
  margin-top: 9px;
  padding-top: 7px;
  border-top: 1px solid var(--hair);
}
h3 {
  font: 600 12px/1.4 var(--narrow);
  margin: 0 0 4px;
}
.input {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr);
  gap: 7px;
  align-items: center;
  padding: 2px;
  border: 1px solid transparent;
  border-radius: 3px;
}
.input.over {
  border: 1px dashed var(--tide);
  background: var(--wash);
}
.picture {
  width: 34px;
  height: 34px;
  border-radius: 2px;
  overflow: hidden;
  background: var(--stage, #777);
}
.picture.empty {
  background: none;
  border: 1px dashed var(--line);
}
img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  display: block;
}
.what {
  display: grid;
  min-width: 0;
}
.word {
  font: 500 11.5px/1.2 var(--narrow);
}
.field {
  border: 0;
  background: none;
  padding: 1px 0;
  min-width: 0;
  font-size: 12px;
  text-overflow: ellipsis;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 6px;
}
.mine {
  width: 30px;
  height: 30px;
  border: 1px solid var(--line);
  border-radius: 2px;
  overflow: hidden;
  cursor: grab;
}
</style>
