<script setup lang="ts">
import { computed } from 'vue'
import {
  layerModes,
  tintChannels,
  type BenchTexture,
  type RemedyOptions,
  type SlotFacts,
} from '@stern-gate/contract'
import {
  firstLayer,
  layerAfter,
  layerInputs,
  optionsOfLayer,
  type LayerOptions,
} from '@stern-gate/core/surfaces'
import ColourField from '../forms/ColourField.vue'
import ValueField from '../forms/ValueField.vue'
import TextureChoice from './TextureChoice.vue'
import UvChoice from './UvChoice.vue'

// A second layer over the slot: what lays it, and what it looks like; seen at once
const props = defineProps<{
  slotFacts: SlotFacts
  textures: readonly BenchTexture[]
  /** Of the mesh. */
  uvChannels: number
  /** What is tried and not kept yet. */
  tried: RemedyOptions
  locked: boolean
  painting: boolean
}>()
const emit = defineEmits<{
  try: [RemedyOptions]
  keep: []
  drop: []
  paint: [set: number, channel: LayerOptions['channel']]
}>()
const layer = computed(() => layerAfter(props.slotFacts.layer, props.tried))
const now = computed(
  () => layer.value && ({ ...optionsOfLayer(layer.value), ...props.tried } as LayerOptions),
)
const fedBy = (input: string): string | null =>
  props.textures.find((t) => t.uses.some((u) => u.slot === props.slotFacts.name && u.field === input))
    ?.name ?? null
const ownTextures = [
  ['texture', 'Texture'],
  ['normalTexture', 'Normals'],
  ['roughnessTexture', 'Roughness map'],
] as const
/** Names of its own textures; empty: none. */
const chosen = computed(
  () =>
    Object.fromEntries(
      ownTextures.map(([option]) => {
        const tried = props.tried[option]
        return [option, String((tried === undefined ? fedBy(layerInputs[option]) : tried) ?? '')]
      }),
    ) as Record<keyof typeof layerInputs, string>,
)
const hasTexture = computed(() => Object.values(chosen.value).some((name) => name !== ''))
const sources = { vertex: 'what is painted', mask: 'its mask', ramp: 'a ramp along a UV channel' } as const
const modeWords = { mix: 'covers', multiply: 'multiplies', add: 'is added' } as const
/** All that is said of it goes along, so that the step says the whole layer. */
function set(values: RemedyOptions, keep: boolean): void {
  const own = Object.fromEntries(Object.entries(chosen.value).map(([option, name]) => [option, name || null]))
  emit('try', { ...(now.value ?? firstLayer), ...own, ...values } as RemedyOptions)
  if (keep) emit('keep')
}
interface Field {
  key: 'strength' | 'roughness' | 'roughnessMost' | 'metallic' | 'normal' | 'tiling' | 'from' | 'to'
  label: string
  max: number
  /** End of the drawn scale. */
  reach: number
  follows: string
}
const share = (key: Field['key'], label: string, follows = ''): Field => ({
  key,
  label,
  max: 1,
  reach: 1,
  follows,
})
const fields = computed<Field[]>(() => [
  share('strength', 'Strength'),
  ...(chosen.value.roughnessTexture
    ? [share('roughness', 'Roughness where black'), share('roughnessMost', 'Roughness where white')]
    : [share('roughness', 'Roughness', 'the surface below')]),
  share('metallic', 'Metallic', 'the surface below'),
  ...(chosen.value.normalTexture ? [{ ...share('normal', 'Normal strength'), max: 10, reach: 2 }] : []),
  ...(hasTexture.value ? [{ ...share('tiling', 'Tiling'), max: 1000, reach: 32 }] : []),
  // UVs go beyond 1 where a texture repeats
  ...(now.value?.by === 'ramp'
    ? [share('from', 'Begins at'), share('to', 'Ends at')].map((f) => ({ ...f, max: 1000 }))
    : []),
])
/** With a roughness map what is not said runs from 0 to 1. */
const shown = (key: Field['key']): number | null => {
  const value = now.value![key]
  if (value !== null || !chosen.value.roughnessTexture) return value
  return key === 'roughness' ? 0 : key === 'roughnessMost' ? 1 : null
}
const liesOnUvs = computed(() => now.value !== null && (now.value.by === 'ramp' || hasTexture.value))
const choose = (key: string, event: Event): void =>
  set({ [key]: (event.target as HTMLSelectElement).value || null }, true)
</script>

<template>
  <section data-layer>
    <label class="plain head">
      <input
        type="checkbox"
        :checked="layer !== null"
        :disabled="locked"
        data-layer-on
        @change="($event.target as HTMLInputElement).checked ? set({}, true) : emit('drop')"
      />
      <b>Second layer</b>
    </label>
    <template v-if="now">
      <label class="plain">
        <span>Laid by</span>
        <select class="field" :value="now.by" :disabled="locked" data-layer-by @change="choose('by', $event)">
          <option v-for="(word, key) in sources" :key="key" :value="key">{{ word }}</option>
        </select>
      </label>
      <label v-if="now.by !== 'ramp'" class="plain">
        <span>Channel</span>
        <select
          class="field"
          :value="now.channel"
          :disabled="locked"
          data-layer-channel
          @change="choose('channel', $event)"
        >
          <option v-for="c in tintChannels" :key="c" :value="c">{{ c }}</option>
        </select>
      </label>
      <label v-else class="plain">
        <span>Along</span>
        <select class="field" :value="now.axis" :disabled="locked" @change="choose('axis', $event)">
          <option value="u">U</option>
          <option value="v">V</option>
        </select>
      </label>
      <button
        v-if="now.by === 'vertex'"
        class="btn"
        :disabled="locked || painting"
        data-paint-begin
        @click="emit('paint', now!.set, now!.channel)"
      >
        {{ painting ? 'Painting on the model …' : 'Paint it on the model' }}
      </button>
      <label class="plain">
        <span>Its colour</span>
        <select
          class="field"
          :value="now.mode"
          :disabled="locked"
          data-layer-mode
          @change="choose('mode', $event)"
        >
          <option v-for="m in layerModes" :key="m" :value="m">{{ modeWords[m] }}</option>
        </select>
      </label>
      <ColourField
        name="layerColour"
        label="Colour"
        :value="now.colour"
        own
        :locked="locked"
        follows=""
        @try="(v) => set({ colour: v }, false)"
        @keep="emit('keep')"
        @reset="set({ colour: firstLayer.colour }, true)"
      />
      <TextureChoice
        v-for="[option, label] in ownTextures"
        :key="option"
        :name="`layer-${option}`"
        :label="label"
        :value="chosen[option]"
        :textures="textures"
        :locked="locked"
        @choose="(name) => set({ [option]: name }, true)"
      />
      <label v-if="chosen.roughnessTexture" class="plain">
        <span>Its channel</span>
        <select
          class="field"
          :value="now.roughnessChannel"
          :disabled="locked"
          data-layer-roughness-channel
          @change="choose('roughnessChannel', $event)"
        >
          <option v-for="c in tintChannels" :key="c" :value="c">{{ c }}</option>
        </select>
      </label>
      <ValueField
        v-for="f in fields"
        :key="f.key"
        :name="`layer-${f.key}`"
        :label="f.label"
        :value="shown(f.key)"
        :min="0"
        :max="f.max"
        :reach="f.reach"
        unit=""
        :own="now[f.key] !== null"
        :locked="locked"
        why=""
        :follows="f.follows"
        @try="(v) => set({ [f.key]: v }, false)"
        @keep="emit('keep')"
        @reset="set({ [f.key]: firstLayer[f.key] }, true)"
      />
      <UvChoice
        v-if="liesOnUvs"
        name="layer"
        :value="now.uv"
        :channels="uvChannels"
        :locked="locked"
        @choose="(uv) => set({ uv }, true)"
      />
      <label class="plain head">
        <input
          type="checkbox"
          :checked="now.inverted"
          :disabled="locked"
          @change="set({ inverted: ($event.target as HTMLInputElement).checked }, true)"
        />
        <span>The other way round</span>
      </label>
    </template>
  </section>
</template>

<style scoped src="../forms/field.css" />
<style scoped src="./plainLine.css" />
<style scoped>
.head {
  grid-template-columns: auto 1fr;
}
.head b {
  color: var(--ink);
  font-weight: 600;
  font-size: 12px;
}
.btn {
  width: 100%;
  margin: 3px 0;
  padding: 3px 8px;
  font-size: 12px;
}
</style>
