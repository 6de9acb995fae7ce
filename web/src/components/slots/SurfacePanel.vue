<script setup lang="ts">
import { computed, ref } from 'vue'
import type { AssetState, RemedyOptions } from '@stern-gate/contract'
import { maskOfSlot, presetOf, slotValuesAsOptions } from '@stern-gate/core/surfaces'
import { isOfVariant, shareText } from '../../bench/stationTable'
import { useHandwork } from '../../stores/handwork'
import { slotColour } from '../../stages/slotColours'
import ColourField from '../forms/ColourField.vue'
import AlphaHistogram from './AlphaHistogram.vue'
import BeginWith from './BeginWith.vue'
import SlotCarryOver from './SlotCarryOver.vue'
import SlotDetail from './SlotDetail.vue'
import SlotInputs from './SlotInputs.vue'
import SlotLayer from './SlotLayer.vue'
import SlotTints from './SlotTints.vue'
import SurfaceFileTools from './SurfaceFileTools.vue'
import SlotTools from './SlotTools.vue'
import { lieOf, placeFields, placedInputs, surfaceGroups, type SurfaceField } from './surfaceFields'
import type { Surfaces } from './useSurface'
import ValueField from '../forms/ValueField.vue'

// What one slot is, by value: seen at once on the stage, kept as steps
const props = defineProps<{
  state: AssetState
  slotName: string | null
  alone: boolean
  locked: boolean
  surfaces: Surfaces
  targetTitle: string
}>()
const emit = defineEmits<{
  choose: [slot: string]
  alone: [boolean]
  touch: []
  step: [remedy: string, options: RemedyOptions]
}>()
const { copied, asKept } = props.surfaces,
  handwork = useHandwork()
const slots = computed(() => props.state.mesh?.slots ?? [])
const names = computed(() => slots.value.map((s) => s.name))
const slot = computed(() => slots.value.find((s) => s.name === props.slotName) ?? slots.value[0] ?? null)
const tried = computed(() => (slot.value ? props.surfaces.tried.value.get(slot.value.name) : undefined))
const said = computed<RemedyOptions>(() => ({
  ...(slot.value ? props.surfaces.saidOf(slot.value.name) : {}),
  ...tried.value?.values,
}))
const preset = computed(() => (typeof said.value['preset'] === 'string' ? said.value['preset'] : ''))
const valueOf = (field: SurfaceField): string | number | boolean | null => {
  const now = tried.value?.values[field.key]
  return now !== undefined && now !== null && !Array.isArray(now) ? now : field.of(slot.value!)
}
const numberOf = (field: SurfaceField): number | null => {
  const value = valueOf(field)
  return typeof value === 'number' ? value : null
}
const isOwn = (field: SurfaceField): boolean => (said.value[field.key] ?? null) !== null
const follows = computed(() => {
  const name = said.value['shared'] ?? presetOf(preset.value)?.title
  return name ? `follows ${String(name)}` : 'as it arrived'
})
/** Alpha of its base colour, where that says anything. */
const alpha = computed(() => {
  const { facts } =
    props.state.textures.find((t) =>
      t.uses.some((u) => u.slot === slot.value?.name && u.input === 'basecolor'),
    ) ?? {}
  const found = facts?.channels?.find((c) => c.name === 'A')
  return found && found.min < 1 ? found : null
})
/** Alpha is multiplied by it. */
const opacity = computed(() => Number(tried.value?.values['opacity'] ?? slot.value?.baseColour[3] ?? 1))
const lacks = (field: SurfaceField): string =>
  (field.needs && !slot.value?.textures.some((t) => field.needs!.includes(t.input))) ||
  (field.needsField && !slot.value?.textures.some((t) => t.field === field.needsField))
    ? 'No texture feeds it: the strength says nothing yet'
    : ''
function set(field: SurfaceField, value: string | number | boolean | null, keep: boolean): void {
  if (!slot.value) return
  emit('touch')
  props.surfaces.tryValues(slot.value.name, { [field.key]: value })
  if (keep) void props.surfaces.keep()
}

const input = ref('all')
const offered = computed(() => placedInputs.filter(([key]) => slot.value && lieOf(slot.value, key) !== null))
const lie = computed(() => (slot.value ? lieOf(slot.value, input.value) : null))
const placeSaid = computed<RemedyOptions>(() => ({
  ...(slot.value ? props.surfaces.placeSaidOf(slot.value.name, input.value) : {}),
  ...tried.value?.places[input.value],
}))
const placeValue = ({ field, of }: (typeof placeFields)[number]): number => {
  const now = tried.value?.places[input.value]?.[field.key]
  return typeof now === 'number' ? now : of(lie.value!)
}
function place(key: string, value: number | null, keep: boolean): void {
  if (!slot.value) return
  emit('touch')
  props.surfaces.tryPlace(slot.value.name, input.value, { [key]: value })
  if (keep) void props.surfaces.keep()
}
function tint(values: RemedyOptions): void {
  emit('touch')
  props.surfaces.tryTint(slot.value!.name, values)
}
function detail(values: RemedyOptions): void {
  emit('touch')
  props.surfaces.tryDetail(slot.value!.name, values)
}
function layer(values: RemedyOptions): void {
  emit('touch')
  props.surfaces.tryLayer(slot.value!.name, values)
}
/** What becomes of its settings at the asset's target. */
const carried = computed(() => props.state.carryOver.filter((l) => l.slot === slot.value?.name))
function show(kept: boolean): void {
  emit('touch')
  asKept.value = kept
}
function paste(all: boolean): void {
  if (!copied.value) return
  emit('touch')
  for (const name of all ? names.value : [slot.value!.name])
    if (name !== copied.value.from || !all) props.surfaces.tryValues(name, copied.value.values)
  void props.surfaces.keep()
}
</script>

<template>
  <aside class="surface" aria-label="Surface of a slot" tabindex="0">
    <template v-if="slot">
      <div class="head">
        <i class="chip" :style="{ background: slotColour(names, slot.name) }" />
        <select
          class="field mono"
          :value="slot.name"
          aria-label="Slot"
          data-slot-choice
          @change="emit('choose', ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="n in names" :key="n" :value="n">{{ n }}</option>
        </select>
        <span class="soft mono">{{ shareText(state, slot.name) }}</span>
      </div>
      <SlotTools
        :slot-name="slot.name"
        :names="names"
        :unused="state.slotShares[slot.name] === undefined && !isOfVariant(state, slot.name)"
        :alone="alone"
        :locked="locked"
        @alone="(on) => emit('alone', on)"
        @part="handwork.begin({ kind: 'pick', slot: slot.name })"
        @step="(remedy, options) => emit('step', remedy, options)"
      />
      <BeginWith
        :slot-name="slot.name"
        :said="said"
        :locked="locked"
        @choose="(what) => surfaces.choose(slot!.name, what)"
      />
      <div class="copying">
        <button class="btn" @click="surfaces.copy(slot, { ...slotValuesAsOptions(slot), ...tried?.values })">
          Copy values
        </button>
        <button
          class="btn"
          :disabled="locked || !copied"
          :title="copied ? `The values of ${copied.from}` : 'Nothing is copied yet'"
          @click="paste(false)"
        >
          Paste
        </button>
        <button
          v-if="names.length > 1"
          class="btn"
          :disabled="locked || !copied"
          title="To every slot of this asset"
          @click="paste(true)"
        >
          Paste to all
        </button>
      </div>
      <SurfaceFileTools
        :slot-facts="slot"
        :textures="state.textures"
        :locked="locked"
        :written="surfaces.writesFiles()"
        @take="(file) => surfaces.take(file, slot!)"
        @write="(on) => surfaces.writeFiles(on)"
      />
      <section v-for="g in surfaceGroups" :key="g.title">
        <h3>{{ g.title }}</h3>
        <template v-for="f in g.fields" :key="f.key">
          <AlphaHistogram
            v-if="f.key === 'cutoff' && alpha"
            :alpha="alpha"
            :cutoff="numberOf(f) ?? 0.5"
            :factor="opacity"
          />
          <ColourField
            v-if="f.kind === 'colour'"
            :name="f.key"
            :label="f.label"
            :value="String(valueOf(f))"
            :own="isOwn(f)"
            :locked="locked"
            :follows="follows"
            @try="(v) => set(f, v, false)"
            @keep="surfaces.keep"
            @reset="set(f, null, true)"
          />
          <ValueField
            v-else-if="f.kind === 'number'"
            :name="f.key"
            :label="f.label"
            :value="numberOf(f)"
            :min="f.min!"
            :max="f.max!"
            :reach="f.reach ?? f.max!"
            :unit="f.unit ?? ''"
            :own="isOwn(f)"
            :locked="locked"
            :why="lacks(f)"
            :follows="follows"
            :class="{ idle: lacks(f) }"
            @try="(v) => set(f, v, false)"
            @keep="surfaces.keep"
            @reset="set(f, null, true)"
          />
          <label v-else class="plain" :class="{ own: isOwn(f) }" :data-value="f.key">
            <span @dblclick.prevent="set(f, null, true)">{{ f.label }}</span>
            <input
              v-if="f.kind === 'switch'"
              type="checkbox"
              :checked="valueOf(f) === true"
              :disabled="locked"
              @change="set(f, ($event.target as HTMLInputElement).checked, true)"
            />
            <select
              v-else
              class="field"
              :value="valueOf(f)"
              :disabled="locked"
              @change="set(f, ($event.target as HTMLSelectElement).value, true)"
            >
              <option v-for="c in f.choices" :key="c" :value="c">{{ c }}</option>
            </select>
          </label>
        </template>
      </section>
      <SlotInputs
        :state="state"
        :slot-facts="slot"
        :locked="locked"
        @step="(remedy, options) => emit('step', remedy, options)"
      />
      <SlotTints
        :slot-facts="slot"
        :mask="maskOfSlot(state.textures, slot.name)"
        :tried="tried?.tint ?? {}"
        :said="surfaces.tintSaidOf(slot.name)"
        :locked="locked"
        @try="tint"
        @keep="surfaces.keep"
      />
      <SlotDetail
        :slot-facts="slot"
        :textures="state.textures"
        :uv-channels="state.mesh?.overview?.uvChannels ?? 1"
        :tried="tried?.detail ?? {}"
        :locked="locked"
        @try="detail"
        @keep="surfaces.keep"
        @drop="surfaces.dropDetail(slot.name)"
      />
      <SlotLayer
        :slot-facts="slot"
        :textures="state.textures"
        :uv-channels="state.mesh?.overview?.uvChannels ?? 1"
        :tried="tried?.layer ?? {}"
        :locked="locked"
        :painting="handwork.now?.kind === 'paint' && handwork.now.slot === slot.name"
        @try="layer"
        @keep="surfaces.keep"
        @drop="surfaces.dropLayer(slot.name)"
        @paint="(set, channel) => handwork.begin({ kind: 'paint', slot: slot!.name, set, channel })"
      />
      <SlotCarryOver
        v-if="carried.length > 0 || asKept"
        :lines="carried"
        :target-title="targetTitle"
        :as-kept="asKept"
        @show="show"
      />
      <section v-if="offered.length > 1">
        <h3 class="with">
          How they lie
          <select v-model="input" class="field" aria-label="Which textures">
            <option v-for="[key, word] in offered" :key="key" :value="key">{{ word }}</option>
          </select>
        </h3>
        <template v-if="lie">
          <ValueField
            v-for="p in placeFields"
            :key="p.field.key"
            :name="p.field.key"
            :label="p.field.label"
            :value="placeValue(p)"
            :min="p.field.min!"
            :max="p.field.max!"
            :reach="p.field.reach!"
            unit=""
            :own="(placeSaid[p.field.key] ?? null) !== null"
            :locked="locked"
            why=""
            follows="as it arrived"
            @try="(v) => place(p.field.key, v, false)"
            @keep="surfaces.keep"
            @reset="place(p.field.key, null, true)"
          />
        </template>
      </section>
    </template>
    <p v-else class="soft">The model has no slots.</p>
  </aside>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.surface {
  padding: 10px 8px 14px 12px;
  overflow: auto;
  min-width: 0;
  border-left: 1px solid var(--line);
}
.head {
  display: grid;
  grid-template-columns: 12px minmax(0, 1fr) auto;
  gap: 7px;
  align-items: center;
}
.chip {
  width: 12px;
  height: 12px;
  border-radius: 2px;
}
.plain {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 12px;
  gap: 4px;
  align-items: center;
  min-height: 25px;
  font: 500 12.5px/1.3 var(--narrow);
  color: var(--soft);
}
.plain.own {
  color: var(--ink);
  font-weight: 600;
}
.plain .field {
  padding: 1px 4px;
}
.copying {
  display: flex;
  gap: 5px;
  margin-top: 6px;
}
.copying .btn {
  padding: 2px 8px;
  font-size: 12px;
}
section {
  margin-top: 9px;
  padding-top: 7px;
  border-top: 1px solid var(--hair);
}
h3 {
  font: 600 12px/1.4 var(--narrow);
  margin: 0 0 2px;
}
h3.with {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
h3 .field {
  font-weight: 400;
  padding: 1px 4px;
}
/* Faded text would be hard to read: what says nothing yet has no bar, and a dashed border */
.idle :deep(.bar) {
  visibility: hidden;
}
.idle :deep(.field) {
  border-style: dashed;
}
</style>
