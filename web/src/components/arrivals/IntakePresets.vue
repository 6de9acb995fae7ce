<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { ApartWay, IntakePreset, RemedyOptions } from '@stern-gate/contract'
import { useIntake } from '../../stores/intake'
import StepFields from '../forms/StepFields.vue'

// Named ways of taking in: the list at the left, the chosen one at the right
const emit = defineEmits<{ close: [] }>()
const intake = useIntake()
const box = ref<HTMLElement | null>(null)
const name = ref(''),
  folder = ref(''),
  generator = ref(''),
  mend = ref(false),
  apart = ref<ApartWay | null>(null),
  absent = ref<IntakePreset['absent']>('ask'),
  options = ref<RemedyOptions>({})
const known = computed(() => intake.presets.find((p) => p.name === name.value.trim()) ?? null)
const fields = computed(() => intake.remedy?.fields ?? [])
const defaults = (): RemedyOptions =>
  Object.fromEntries(fields.value.flatMap((f) => (f.default === undefined ? [] : [[f.name, f.default]])))

function open(preset: IntakePreset | null): void {
  name.value = preset?.name ?? ''
  folder.value = preset?.folder ?? ''
  generator.value = preset?.generator ?? ''
  mend.value = preset?.mend ?? false
  apart.value = preset?.apart ?? null
  absent.value = preset?.absent ?? 'ask'
  options.value = { ...defaults(), ...preset?.options }
}
onMounted(async () => {
  box.value?.focus()
  await Promise.all([intake.fetchFields(), intake.refresh()])
  open(intake.chosen ?? intake.presets[0] ?? null)
})
async function save(): Promise<void> {
  if (
    await intake.save({
      name: name.value.trim(),
      options: options.value,
      folder: folder.value.trim(),
      generator: generator.value.trim(),
      mend: mend.value,
      apart: apart.value,
      absent: absent.value,
    })
  )
    emit('close')
}
async function remove(): Promise<void> {
  if (known.value && (await intake.remove(known.value.name))) open(intake.presets[0] ?? null)
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <section ref="box" class="box" role="dialog" aria-label="Intake presets" tabindex="-1">
      <nav aria-label="Presets">
        <h2>Intake presets</h2>
        <button
          v-for="p in intake.presets"
          :key="p.name"
          class="one"
          :class="{ on: p.name === known?.name }"
          :aria-pressed="p.name === known?.name"
          @click="open(p)"
        >
          {{ p.name }}
        </button>
        <p v-if="intake.presets.length === 0" class="soft">
          None yet. A preset says how a kind of source is taken in, so that nobody has to set it again.
        </p>
        <button class="btn" @click="open(null)">A new one</button>
      </nav>
      <form @submit.prevent="save">
        <label class="row"
          ><span class="name">Name</span><input v-model="name" class="field" maxlength="60" data-field="name"
        /></label>
        <div class="two">
          <label class="row"
            ><span class="name">Fits folders with</span
            ><input v-model="folder" class="field" maxlength="200" data-field="folder"
          /></label>
          <label class="row"
            ><span class="name">Fits the generator</span
            ><input v-model="generator" class="field" maxlength="200" data-field="generator"
          /></label>
        </div>
        <p class="soft hint">
          A delivery whose folders or generator string hold these words is offered this preset.
        </p>
        <label class="mend"
          ><input v-model="mend" type="checkbox" data-field="mend" /> Mend what is safe as soon as an asset is
          judged</label
        >
        <label class="mend"
          >Files of several things
          <select v-model="apart" data-field="apart">
            <option :value="null">as the rulebook says</option>
            <option value="top">taken apart by top nodes</option>
            <option value="groups">taken apart by groups</option>
            <option value="name">taken apart by names</option>
            <option value="distance">taken apart by distance</option>
            <option value="nodes">taken apart, each mesh</option>
          </select></label
        >
        <label
          >Clips, collision and levels that a new version lacks
          <select v-model="absent" data-field="absent">
            <option value="ask">somebody is asked</option>
            <option value="keep">collision and levels are kept from the version before</option>
            <option value="gone">they are gone</option>
          </select></label
        >
        <div class="grid">
          <StepFields :fields="fields" :options="options" :state="null" @change="(o) => (options = o)" />
        </div>
        <footer>
          <button type="submit" class="btn go" :disabled="name.trim() === ''">
            {{ known ? 'Save it' : 'Save the new preset' }}</button><button
            v-if="known"
            type="button"
            class="btn"
            @click="remove"
          >
            Take it out</button
          ><span class="gap" /><button type="button" class="btn" @click="emit('close')">
            Close <kbd>Esc</kbd>
          </button>
        </footer>
      </form>
    </section>
  </div>
</template>

<style scoped src="../dialog.css" />
<style scoped>
.box {
  background: var(--paper);
  width: 860px;
  max-height: 86vh;
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  overflow: hidden;
}
nav {
  border-right: 1px solid var(--line);
  padding: 16px 12px;
  overflow: auto;
}
nav p {
  margin: 6px 0 12px;
}
h2 {
  font: 600 15px/1.2 var(--text);
  margin-bottom: 12px;
}
.one {
  display: block;
  width: 100%;
  text-align: left;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  padding: 6px 8px;
  margin-bottom: 3px;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.one.on {
  background: var(--wash);
  border-color: var(--tide);
}
form {
  padding: 16px 18px;
  overflow: auto;
  max-height: 86vh;
}
.row {
  display: block;
  margin-bottom: 9px;
}
.name {
  display: block;
  font: 500 12.5px/1.4 var(--narrow);
}
.field {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 5px 8px;
  font: 400 12.5px/1.3 var(--text);
}
.two,
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 18px;
  align-items: start;
}
.hint {
  font-size: 11.5px;
  margin: -2px 0 12px;
}
footer {
  display: flex;
  gap: 6px;
  padding-top: 6px;
}
.gap {
  flex: 1;
}
</style>
