<script setup lang="ts">
import { ref } from 'vue'
import ColourField from '../forms/ColourField.vue'
import ValueField from '../forms/ValueField.vue'
import {
  environments,
  environmentWords,
  firstLight,
  lampWords,
  toneCurves,
  toneWords,
  type Lamp,
  type LightSettings,
} from '../../stages/lightSettings'

// How the stage is lit: a surrounding, three lamps, exposure, the grey behind, matte balls to hold against
const settings = defineModel<LightSettings>({ required: true })
const props = defineProps<{
  /** Name of the picture of one's own that can be taken as light. */
  ownName: string | null
  /** Why the last picture could not be read; empty where it could. */
  trouble: string
  reference: { name: string; mode: 'beside' | 'behind' } | null
}>()
const emit = defineEmits<{
  close: []
  surrounding: [File]
  reference: [File | null]
  referenceMode: ['beside' | 'behind']
}>()
const surroundingFile = ref<HTMLInputElement | null>(null),
  referenceFile = ref<HTMLInputElement | null>(null)
const fileOf = (event: Event): File | null => {
  const input = event.target as HTMLInputElement,
    file = input.files?.[0] ?? null
  input.value = ''
  return file
}
/** The last choice asks for a file where there is none yet. */
function surround(event: Event): void {
  const select = event.target as HTMLSelectElement
  if (select.value !== 'bring') return set({ environment: select.value as LightSettings['environment'] })
  select.value = settings.value.environment
  surroundingFile.value?.click()
}
function bring(event: Event): void {
  const file = fileOf(event)
  if (file) emit('surrounding', file)
}
function refer(event: Event): void {
  const file = fileOf(event)
  if (file) emit('reference', file)
}
const lamp = ref(0)
const set = (change: Partial<LightSettings>): void => {
  settings.value = { ...settings.value, ...change }
}
const setLamp = (change: Partial<Lamp>): void => {
  const lamps = settings.value.lamps.map((l, i) => (i === lamp.value ? { ...l, ...change } : l))
  set({ lamps: lamps as LightSettings['lamps'] })
}
const first = (): Lamp => firstLight.lamps[lamp.value]!
const greys = [64, 90, 119, 160, 200] as const
</script>

<template>
  <section class="light" aria-label="Light" @keydown.esc.stop="emit('close')">
    <h3>
      Light
      <button class="btn" title="As at first" @click="settings = firstLight">Reset</button>
      <button class="btn" aria-label="Close" @click="emit('close')">×</button>
    </h3>
    <label class="line"
      ><span>Surrounding</span>
      <select class="field" :value="settings.environment" data-surrounding @change="surround">
        <option v-for="e in environments" :key="e" :value="e">{{ environmentWords[e] }}</option>
        <option v-if="props.ownName" value="own">{{ props.ownName }}</option>
        <option value="bring">A picture …</option>
      </select></label
    >
    <input
      ref="surroundingFile"
      type="file"
      accept=".hdr,.exr,.ktx2"
      hidden
      aria-label="A picture of light from all sides, .hdr, .exr or .ktx2"
      data-surrounding-file
      @change="bring"
    />
    <p v-if="props.trouble" role="alert" class="trouble">{{ props.trouble }}</p>
    <ValueField
      name="surround-strength"
      label="Strength"
      :value="settings.strength"
      :min="0"
      :max="5"
      :reach="2"
      unit=""
      :own="settings.strength !== firstLight.strength"
      :locked="false"
      why=""
      follows="as at first"
      @try="(strength) => set({ strength })"
      @reset="set({ strength: firstLight.strength })"
    />
    <ValueField
      name="surround-turn"
      label="Turned by"
      :value="settings.turn"
      :min="-180"
      :max="180"
      :reach="180"
      unit="°"
      :own="settings.turn !== 0"
      :locked="false"
      why=""
      follows="as at first"
      @try="(turn) => set({ turn })"
      @reset="set({ turn: 0 })"
    />
    <div class="lamps" role="tablist" aria-label="Lamps">
      <button
        v-for="(word, i) in lampWords"
        :key="word"
        role="tab"
        :aria-selected="i === lamp"
        :class="{ on: i === lamp }"
        @click="lamp = i"
      >
        {{ word }}
      </button>
    </div>
    <ValueField
      v-for="f in [
        { key: 'angle', label: 'Angle', min: -180, max: 180, reach: 180, unit: '°' },
        { key: 'height', label: 'Height', min: -90, max: 90, reach: 90, unit: '°' },
        { key: 'strength', label: 'Strength', min: 0, max: 20, reach: 5, unit: '' },
      ] as const"
      :key="f.key"
      :name="`lamp-${f.key}`"
      :label="f.label"
      :value="settings.lamps[lamp]![f.key]"
      :min="f.min"
      :max="f.max"
      :reach="f.reach"
      :unit="f.unit"
      :own="settings.lamps[lamp]![f.key] !== first()[f.key]"
      :locked="false"
      why=""
      follows="as at first"
      @try="(v) => setLamp({ [f.key]: v })"
      @reset="setLamp({ [f.key]: first()[f.key] })"
    />
    <ColourField
      name="lamp-colour"
      label="Colour"
      :value="settings.lamps[lamp]!.colour"
      :own="settings.lamps[lamp]!.colour !== first().colour"
      :locked="false"
      follows="as at first"
      @try="(colour) => setLamp({ colour })"
      @reset="setLamp({ colour: first().colour })"
    />
    <hr />
    <ValueField
      name="exposure"
      label="Exposure, stops"
      :value="settings.exposure"
      :min="-6"
      :max="6"
      :reach="3"
      unit=""
      :own="settings.exposure !== 0"
      :locked="false"
      why=""
      follows="as at first"
      @try="(exposure) => set({ exposure })"
      @reset="set({ exposure: 0 })"
    />
    <label class="line"
      ><span>Tone curve</span>
      <select
        class="field"
        :value="settings.curve"
        data-curve
        @change="set({ curve: ($event.target as HTMLSelectElement).value as LightSettings['curve'] })"
      >
        <option v-for="c in toneCurves" :key="c" :value="c">{{ toneWords[c] }}</option>
      </select></label
    >
    <div class="line">
      <span>Grey behind</span>
      <span class="greys">
        <button
          v-for="g in greys"
          :key="g"
          :class="{ on: settings.grey === g }"
          :style="{ background: `rgb(${g} ${g} ${g})` }"
          :aria-label="`Grey ${g} of 255`"
          :aria-pressed="settings.grey === g"
          @click="set({ grey: settings.grey === g ? null : g })"
        />
      </span>
    </div>
    <label class="line"
      ><span title="Matte balls that reflect 18 % and 90 % of the light">Balls of 18 and 90 %</span>
      <input
        type="checkbox"
        :checked="settings.checkers"
        data-checkers
        @change="set({ checkers: ($event.target as HTMLInputElement).checked })"
    /></label>
    <hr />
    <ValueField
      name="lens"
      label="Lens, degrees"
      :value="settings.lens"
      :min="8"
      :max="100"
      :reach="100"
      unit="°"
      :own="settings.lens !== firstLight.lens"
      :locked="false"
      why="Angle of view from foot to top"
      follows="as at first"
      @try="(lens) => set({ lens })"
      @reset="set({ lens: firstLight.lens })"
    />
    <div class="line">
      <span title="A picture that the model is held against; it is there for as long as the page is open"
        >Reference</span
      >
      <span v-if="props.reference" class="modes">
        <button
          v-for="mode in ['beside', 'behind'] as const"
          :key="mode"
          class="btn"
          :class="{ on: props.reference.mode === mode }"
          :aria-pressed="props.reference.mode === mode"
          :data-reference-mode="mode"
          @click="emit('referenceMode', mode)"
        >
          {{ mode }}
        </button>
        <button class="btn" aria-label="Take the reference away" @click="emit('reference', null)">×</button>
      </span>
      <button v-else class="btn" @click="referenceFile?.click()">A picture …</button>
      <input
        ref="referenceFile"
        type="file"
        accept="image/*"
        hidden
        aria-label="A picture to hold the model against"
        data-reference-file
        @change="refer"
      />
    </div>
  </section>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.light {
  position: absolute;
  right: 8px;
  top: 44px;
  width: 236px;
  padding: 8px 6px 9px 11px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 3px;
  box-shadow: 0 6px 20px rgb(0 0 0 / 28%);
  z-index: 3;
}
h3 {
  display: flex;
  gap: 6px;
  align-items: center;
  font: 600 12.5px/1 var(--narrow);
  margin: 0 0 6px;
}
h3 .btn {
  padding: 2px 7px;
  font-size: 12px;
}
h3 .btn:first-of-type {
  margin-left: auto;
}
.line {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  min-height: 25px;
  padding-right: 16px;
  font: 500 12.5px/1.3 var(--narrow);
  color: var(--soft);
}
.lamps {
  display: flex;
  margin-top: 4px;
}
.lamps button {
  border: 0;
  border-bottom: 2px solid var(--hair);
  background: none;
  color: var(--soft);
  font: 600 12px/1 var(--narrow);
  padding: 6px 9px;
  cursor: pointer;
}
.lamps .on {
  color: var(--ink);
  border-color: var(--tide);
}
hr {
  border: 0;
  border-top: 1px solid var(--hair);
  margin: 6px 0 3px;
}
.trouble {
  margin: 3px 0;
  color: var(--stop);
  font: 500 12px/1.35 var(--narrow);
}
.modes {
  display: flex;
  gap: 3px;
}
.line .btn {
  padding: 2px 6px;
  font-size: 12px;
}
.modes .on {
  border-color: var(--tide);
}
.greys {
  display: flex;
  gap: 4px;
}
.greys button {
  width: 18px;
  height: 18px;
  border: 1px solid var(--line);
  border-radius: 2px;
  cursor: pointer;
}
.greys .on {
  outline: 2px solid var(--tide);
}
</style>
