<script setup lang="ts">
import { computed } from 'vue'
import type { BenchTexture, RemedyOptions, SlotFacts } from '@stern-gate/contract'
import { detailAfter, detailInputs, firstDetail } from '@stern-gate/core/surfaces'
import ValueField from '../forms/ValueField.vue'
import TextureChoice from './TextureChoice.vue'
import UvChoice from './UvChoice.vue'

// A detail map over the slot: fine structure that repeats, seen at once
const props = defineProps<{
  slotFacts: SlotFacts
  textures: readonly BenchTexture[]
  /** Of the mesh. */
  uvChannels: number
  /** What is tried and not kept yet. */
  tried: RemedyOptions
  locked: boolean
}>()
const emit = defineEmits<{ try: [RemedyOptions]; keep: []; drop: [] }>()
type Input = keyof typeof detailInputs
const fedBy = (input: string): string | null =>
  props.textures.find((t) => t.uses.some((u) => u.slot === props.slotFacts.name && u.field === input))
    ?.name ?? null
const chosen = (option: Input): string =>
  String((props.tried[option] === undefined ? fedBy(detailInputs[option]) : props.tried[option]) ?? '')
const detail = computed(() => detailAfter(props.slotFacts.detail, props.tried))
const fields = computed(() => [
  { key: 'tiling' as const, label: 'Tiling', min: 0.01, max: 1000, reach: 64 },
  ...(chosen('texture')
    ? [{ key: 'colour' as const, label: 'Colour counts', min: 0, max: 1, reach: 1 }]
    : []),
  ...(chosen('normalTexture')
    ? [{ key: 'normal' as const, label: 'Normal strength', min: 0, max: 10, reach: 2 }]
    : []),
])
/** All that is said of it goes along, so that the step says the whole detail map. */
function set(values: RemedyOptions, keep: boolean): void {
  emit('try', {
    ...(detail.value ?? firstDetail),
    texture: chosen('texture') || null,
    normalTexture: chosen('normalTexture') || null,
    ...values,
  })
  if (keep) emit('keep')
}
/** Without either texture there is no detail map. */
function choose(option: Input, name: string | null): void {
  const other = chosen(option === 'texture' ? 'normalTexture' : 'texture')
  if (name === null && other === '') emit('drop')
  else set({ [option]: name }, true)
}
</script>

<template>
  <section data-detail>
    <h3>Detail map</h3>
    <TextureChoice
      name="detail"
      label="Colour"
      :value="chosen('texture')"
      :textures="textures"
      :locked="locked"
      @choose="(name) => choose('texture', name)"
    />
    <TextureChoice
      name="detail-normal"
      label="Normals"
      :value="chosen('normalTexture')"
      :textures="textures"
      :locked="locked"
      @choose="(name) => choose('normalTexture', name)"
    />
    <template v-if="detail">
      <ValueField
        v-for="f in fields"
        :key="f.key"
        :name="`detail-${f.key}`"
        :label="f.label"
        :value="detail[f.key]"
        :min="f.min"
        :max="f.max"
        :reach="f.reach"
        unit=""
        own
        :locked="locked"
        why=""
        follows=""
        @try="(v) => set({ [f.key]: v }, false)"
        @keep="emit('keep')"
        @reset="set({ [f.key]: firstDetail[f.key] }, true)"
      />
      <UvChoice
        name="detail"
        :value="detail.uv"
        :channels="uvChannels"
        :locked="locked"
        @choose="(uv) => set({ uv }, true)"
      />
      <p v-if="chosen('texture')" class="soft">A grey of 50 % leaves the base colour as it is.</p>
    </template>
  </section>
</template>

<style scoped src="../forms/field.css" />
<style scoped src="./plainLine.css" />
<style scoped>
h3 {
  font: 600 12px/1.4 var(--narrow);
  margin: 0 0 2px;
}
p {
  margin: 2px 0 0;
  font-size: 11.5px;
}
</style>
