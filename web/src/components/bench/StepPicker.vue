<script setup lang="ts">
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue'
import {
  stations,
  stationTitles,
  type AssetState,
  type RecipeStep,
  type RemedyInfo,
  type RemedyOptions,
  type Station,
} from '@stern-gate/contract'
import { listRemedies } from '../../api/client'
import { useFaults } from '../../stores/faults'
import type { StepByHand } from '../../bench/stepByHand'
import { firstOptions, missingField } from '../../bench/stepFields'
import StepFields from '../forms/StepFields.vue'

// Any remedy with options of one's own, as a new step or in place of one that is there
const props = defineProps<{
  state: AssetState
  station: Station
  step: RecipeStep | null
  draft: StepByHand | null
  busy: boolean
  previewing: boolean
}>()
const emit = defineEmits<{
  close: []
  preview: [string, RemedyOptions]
  leave: []
  add: [string, RemedyOptions]
}>()
const faults = useFaults()
const remedies = shallowRef<readonly RemedyInfo[]>([])
const query = ref(''),
  chosenId = ref<string | null>(props.step?.remedy ?? props.draft?.remedy ?? null),
  options = ref<RemedyOptions>({ ...(props.step ?? props.draft)?.options })
const head = ref<HTMLElement | null>(null),
  field = ref<HTMLInputElement | null>(null)
onMounted(async () => {
  const entry = (): HTMLElement | null =>
    props.draft
      ? ([...(head.value?.parentElement?.querySelectorAll<HTMLInputElement>('form input') ?? [])].find(
          (i) => i.value === '',
        ) ?? null)
      : null
  ;(field.value ?? head.value)?.focus()
  remedies.value = await listRemedies().catch((error: unknown) => {
    faults.put(error)
    return []
  })
  await nextTick()
  entry()?.focus()
})

const words = computed(() => query.value.toLowerCase().split(/\s+/).filter(Boolean))
/** What is painted begins on the model, not in a form. */
const isByForm = (remedy: RemedyInfo): boolean => !remedy.fields.some((f) => f.name === 'data' && !f.optional)
/** This station's remedies first, then those of the others in the order of work. */
const groups = computed(() =>
  [props.station, ...stations.filter((s) => s !== props.station)]
    .map((station) => ({
      station,
      list: remedies.value.filter(
        (r) =>
          r.station === station &&
          isByForm(r) &&
          words.value.every((w) => `${r.title} ${r.about} ${r.id}`.toLowerCase().includes(w)),
      ),
    }))
    .filter((g) => g.list.length > 0),
)
const chosen = computed(() => remedies.value.find((r) => r.id === chosenId.value) ?? null)
const missing = computed(() => (chosen.value ? missingField(chosen.value, options.value) : null))

function choose(remedy: RemedyInfo): void {
  chosenId.value = remedy.id
  options.value = firstOptions(remedy, props.state)
}
function chooseFirst(): void {
  const first = groups.value[0]?.list[0]
  if (first && words.value.length > 0) choose(first)
}
function back(): void {
  chosenId.value = null
  emit('leave')
}
/** What it would make is shown as soon as everything is filled in. */
let waiting: ReturnType<typeof setTimeout> | null = null
watch(
  [chosen, options],
  () => {
    if (waiting !== null) clearTimeout(waiting)
    if (chosen.value && missing.value === null)
      waiting = setTimeout(() => {
        if (chosen.value) emit('preview', chosen.value.id, options.value)
      }, 250)
  },
  { deep: true },
)
</script>

<template>
  <section
    class="picker"
    role="dialog"
    aria-label="A step of your own"
    @keydown.esc.stop="chosen && !step ? back() : emit('close')"
  >
    <h2 ref="head" tabindex="-1">
      <span>{{ step ? 'Change a step' : chosen ? 'A step of your own' : 'Which remedy?' }}</span><button
        class="btn"
        @click="emit('close')"
      >
        Close <kbd>Esc</kbd>
      </button>
    </h2>
    <template v-if="!chosen">
      <input
        ref="field"
        v-model="query"
        class="field"
        type="search"
        @keydown.enter.prevent="chooseFirst"
        aria-label="Find a remedy"
        placeholder="Find a remedy"
      />
      <div v-for="g in groups" :key="g.station">
        <h3>{{ stationTitles[g.station] }}</h3>
        <button
          v-for="r in g.list"
          :key="r.id"
          class="one"
          :title="r.about"
          :data-remedy="r.id"
          @click="choose(r)"
        >
          {{ r.title }}
        </button>
      </div>
      <p v-if="groups.length === 0 && remedies.length > 0" class="soft">No remedy has these words.</p>
    </template>
    <form v-else @submit.prevent="missing === null && emit('add', chosen.id, options)">
      <h3 class="title">{{ chosen.title }}</h3>
      <p class="soft about">{{ chosen.about }}</p>
      <StepFields
        :fields="chosen.fields.filter((f) => f.name !== 'data')"
        :options="options"
        :state="state"
        @change="(o) => (options = o)"
      />
      <!-- Always there: what stands below it must not move away from under the pointer -->
      <p class="soft status" role="status">
        {{ missing ? `Still to say: ${missing}.` : previewing ? 'The stage shows what it would make.' : '' }}
      </p>
      <div class="acts">
        <button class="btn go" type="submit" :disabled="busy || missing !== null">
          {{ step ? 'Change it' : 'Add to the recipe' }}</button><button
          v-if="!step"
          type="button"
          class="btn"
          @click="back"
        >
          Another remedy
        </button>
      </div>
    </form>
  </section>
</template>

<style scoped>
.picker {
  padding: 10px 12px;
  overflow: auto;
  min-width: 0;
  border-right: 1px solid var(--line);
  background: var(--paper);
}
h2,
h3 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin: 2px 0 8px;
  display: flex;
  justify-content: space-between;
  align-items: center;
}
h2:focus {
  outline: none;
}
h3 {
  margin: 12px 0 4px;
}
.title {
  color: var(--ink);
  font-size: 14px;
  line-height: 1.3;
}
.field {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 5px 8px;
  min-width: 0;
  font: 400 12.5px/1.3 var(--text);
}
.one {
  display: block;
  width: 100%;
  text-align: left;
  border: 1px solid transparent;
  background: none;
  border-radius: 3px;
  padding: 5px 8px;
  cursor: pointer;
}
.one:hover,
.one:focus-visible {
  border-color: var(--line);
  background: var(--sheet);
}
.about {
  margin-bottom: 12px;
}
.status {
  min-height: 2.8em;
}
.acts {
  display: flex;
  gap: 6px;
  margin-top: 10px;
}
</style>
