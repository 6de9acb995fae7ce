<script setup lang="ts">
import { computed, ref, watch } from 'vue'

// What stands beside the model: the person, the grid's step, another asset of the project
const props = defineProps<{
  personHeight: number
  gridStep: number | null
  assets: readonly { id: string; name: string }[]
  guest: string | null
  over: boolean
  /** Whether the pivot is being picked, and whether it can be. */
  picking: boolean
  locked: boolean
}>()
const emit = defineEmits<{
  sizes: [{ personHeight?: number; gridStep?: number | null }]
  guest: [string | null]
  over: [boolean]
  pick: [boolean]
  ask: [find: string]
}>()
const name = ref('')
// Names come as they are asked for: one that was typed to its end is chosen when it comes
watch(
  () => props.assets,
  () => {
    if (name.value.trim() !== '' && name.value !== known.value) choose()
  },
)
const known = computed(() => props.assets.find((a) => a.id === props.guest)?.name ?? '')
watch(
  known,
  (now) => {
    name.value = now
  },
  { immediate: true },
)

function type(): void {
  choose()
  emit('ask', name.value)
}
function choose(): void {
  const wanted = name.value.trim()
  const found = props.assets.find((a) => a.name === wanted)
  if (wanted === '') emit('guest', null)
  else if (found) emit('guest', found.id)
}
function setHeight(event: Event): void {
  const metres = Number((event.target as HTMLInputElement).value)
  if (metres > 0 && metres !== props.personHeight) emit('sizes', { personHeight: metres })
}
function setStep(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim(),
    metres = text === '' ? null : Number(text)
  if (metres !== props.gridStep && (metres === null || metres > 0)) emit('sizes', { gridStep: metres })
}
</script>

<template>
  <div class="tools second bar" role="toolbar" aria-label="What the model stands beside">
    <label
      >Person
      <input
        type="number"
        min="0.1"
        max="50"
        step="0.05"
        :value="personHeight"
        data-field="person"
        @change="setHeight"
      />
      m</label
    >
    <label
      >Grid
      <input
        type="number"
        min="0.001"
        max="10000"
        step="any"
        :value="gridStep ?? ''"
        placeholder="auto"
        title="Metres between the strong lines; empty: by the size of the asset"
        data-field="grid"
        @change="setStep"
      />
      m</label
    >
    <label
      >Beside
      <input
        v-model="name"
        class="mono name"
        list="beside"
        placeholder="another asset"
        data-field="beside"
        @focus="emit('ask', '')"
        @input="type"
        @change="choose"
    /></label>
    <datalist id="beside"><option v-for="a in assets" :key="a.id" :value="a.name" /></datalist>
    <template v-if="guest">
      <button :class="{ on: !over }" :aria-pressed="!over" @click="emit('over', false)">Aside</button>
      <button :class="{ on: over }" :aria-pressed="over" @click="emit('over', true)">Same origin</button>
    </template>
    <button
      :class="{ on: picking }"
      :aria-pressed="picking"
      :disabled="locked"
      title="Pick vertices of the model, or of what stands at the same origin: the pivot goes to their middle"
      data-pick-pivot
      @click="emit('pick', !picking)"
    >
      Pivot …
    </button>
  </div>
</template>

<style scoped src="./stage.css" />
<style scoped>
.bar {
  align-items: center;
  gap: 2px;
  padding-left: 9px;
}
label {
  display: flex;
  align-items: center;
  gap: 5px;
  font: 500 12px/1 var(--narrow);
  color: var(--hud-ink);
  padding-right: 6px;
}
input {
  width: 58px;
  border: 1px solid transparent;
  border-radius: 2px;
  background: rgba(255, 255, 255, 0.14);
  color: inherit;
  font: 400 12px/1.2 var(--mono);
  padding: 3px 5px;
}
input.name {
  width: 146px;
}
input::placeholder {
  color: var(--hud-ink);
  opacity: 0.75;
}
input:focus-visible {
  outline-color: var(--mast-mark);
}
</style>
