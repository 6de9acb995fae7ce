<script setup lang="ts">
import { computed } from 'vue'
import {
  alphaMeanings,
  type BenchTexture,
  type RemedyOptions,
  type SlotFacts,
  type Tint,
  tintChannels,
  type TintChannel,
} from '@stern-gate/contract'
import { hexOfLinear, tintNames, tintsAfter } from '@stern-gate/core/surfaces'
import ColourField from '../forms/ColourField.vue'
import ValueField from '../forms/ValueField.vue'

// Colours for the channels of a slot's mask, seen at once, and what the alpha of its base colour means
const props = defineProps<{
  slotFacts: SlotFacts
  mask: BenchTexture | undefined
  /** What is tried and not kept yet. */
  tried: RemedyOptions
  /** What the recipe says. */
  said: RemedyOptions
  locked: boolean
}>()
const emit = defineEmits<{ try: [RemedyOptions]; keep: [] }>()

/** A channel that nothing was declared for begins with this. */
const FIRST = '#b03a2e'
const words: Readonly<Record<TintChannel, string>> = { R: 'Red', G: 'Green', B: 'Blue', A: 'Alpha' }
const now = computed(() => tintsAfter(props.slotFacts.tints, props.tried))
const offered = computed(() =>
  tintChannels.filter((c) => props.mask?.facts?.channels?.some((f) => f.name === c || f.name === 'grey')),
)
const rows = computed(() =>
  tintChannels
    .filter((c) => offered.value.includes(c) || tintOf(c))
    .map((channel) => ({ channel, tint: tintOf(channel), holds: holds(channel) })),
)
const tintOf = (channel: TintChannel): Tint | undefined => now.value.find((t) => t.channel === channel)
/** What the mask has there. */
function holds(channel: TintChannel): string {
  const found = props.mask?.facts?.channels?.find((f) => f.name === channel || f.name === 'grey')
  if (!found) return 'not in the mask'
  return found.max * 255 < 8 ? 'empty' : `${Math.round(found.mean * 100)} % of the mask`
}
const isOwn = (key: string): boolean => (props.said[key] ?? props.tried[key] ?? null) !== null
function set(values: RemedyOptions, keep: boolean): void {
  emit('try', values)
  if (keep) emit('keep')
}
const declare = (channel: TintChannel, on: boolean): void =>
  set({ [tintNames[channel]]: on ? FIRST : 'none' }, true)
</script>

<template>
  <section v-if="mask || slotFacts.tints.length > 0" data-tints>
    <h3>Tint by mask</h3>
    <p class="soft mono name">{{ mask?.name ?? 'no texture is its mask' }}</p>
    <template v-for="{ channel, tint, holds: what } in rows" :key="channel">
      <label class="channel">
        <input
          type="checkbox"
          :checked="tint !== undefined"
          :disabled="locked"
          :data-tint="channel"
          @change="declare(channel, ($event.target as HTMLInputElement).checked)"
        />
        <span>{{ words[channel] }}</span>
        <span class="soft">{{ what }}</span>
      </label>
      <template v-if="tint">
        <ColourField
          :name="tintNames[channel]"
          label="Colour"
          :value="hexOfLinear(tint.colour)"
          :own="isOwn(tintNames[channel])"
          :locked="locked"
          follows="as it arrived"
          @try="(v) => set({ [tintNames[channel]]: v }, false)"
          @keep="emit('keep')"
          @reset="set({ [tintNames[channel]]: null }, true)"
        />
        <ValueField
          :name="`${tintNames[channel]}Strength`"
          label="Strength"
          :value="tint.strength"
          :min="0"
          :max="1"
          :reach="1"
          unit=""
          :own="isOwn(`${tintNames[channel]}Strength`)"
          :locked="locked"
          why=""
          follows="as it arrived"
          @try="(v) => set({ [`${tintNames[channel]}Strength`]: v }, false)"
          @keep="emit('keep')"
          @reset="set({ [`${tintNames[channel]}Strength`]: null }, true)"
        />
      </template>
    </template>
    <label class="channel means">
      <span>Alpha of the base colour means</span>
      <select
        class="field"
        :value="tried['alphaMeans'] ?? slotFacts.alphaMeaning ?? ''"
        :disabled="locked"
        data-alpha-means
        @change="set({ alphaMeans: ($event.target as HTMLSelectElement).value || null }, true)"
      >
        <option value="">not declared</option>
        <option v-for="m in alphaMeanings" :key="m" :value="m">{{ m === 'none' ? 'nothing' : m }}</option>
      </select>
    </label>
  </section>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
section {
  margin-top: 9px;
  padding-top: 7px;
  border-top: 1px solid var(--hair);
}
h3 {
  font: 600 12px/1.4 var(--narrow);
  margin: 0;
}
.name {
  margin: 0 0 3px;
  font-size: 11px;
  overflow-wrap: anywhere;
}
.channel {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 6px;
  align-items: center;
  font: 500 12.5px/1.7 var(--narrow);
}
.channel .soft {
  text-align: right;
}
.means {
  grid-template-columns: 1fr auto;
  color: var(--soft);
  margin-top: 3px;
}
</style>
