<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import type { MendPlan } from '@stern-gate/contract'
import { countOf } from '@stern-gate/core/numbers'
import { planMending } from '../../api/client'
import LevelShape from '../../marks/LevelShape.vue'
import { useBulk } from '../../stores/bulk'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'

// What is safe to mend, by remedy, each to be left out; done in the background, with one undo
const props = defineProps<{ assets: readonly string[] | null; delivery?: string; of: string }>()
const emit = defineEmits<{ close: []; done: [] }>()
const project = useProject()
const bulk = useBulk()
const faults = useFaults()
const box = ref<HTMLElement | null>(null)
const plan = shallowRef<MendPlan | null>(null)
const without = ref<Set<string>>(new Set())
const request = computed(() => ({
  assets: props.assets && [...props.assets],
  without: [...without.value],
  ...(props.delivery === undefined ? {} : { delivery: props.delivery }),
}))
onMounted(async () => {
  box.value?.focus()
  await read()
})
async function read(): Promise<void> {
  try {
    const answer = await planMending(project.openId!, { ...request.value, without: [] })
    plan.value = answer
  } catch (error) {
    faults.put(error)
    emit('close')
  }
}
function toggle(remedy: string): void {
  const next = new Set(without.value)
  if (!next.delete(remedy)) next.add(remedy)
  without.value = next
}
const taken = computed(() => plan.value?.remedies.filter((r) => !without.value.has(r.remedy)) ?? [])
const steps = computed(() => taken.value.reduce((sum, r) => sum + r.steps, 0))
async function mend(): Promise<void> {
  if (await bulk.mend(request.value)) {
    emit('done')
    emit('close')
  }
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <section ref="box" class="box" role="dialog" aria-label="Mend what is safe" tabindex="-1">
      <header>
        <h2>Mend what is safe</h2>
        <span class="soft">{{ of }}</span><span class="gap" />
        <button class="btn" aria-label="Close" @click="emit('close')">×</button>
      </header>
      <p v-if="!plan" class="soft pad">Looking for what is safe …</p>
      <p v-else-if="plan.remedies.length === 0" class="soft pad">
        Nothing here is safe to mend by itself: what is left needs a person.
      </p>
      <ul v-else>
        <li v-for="r in plan.remedies" :key="r.remedy">
          <label
            ><input
              type="checkbox"
              :checked="!without.has(r.remedy)"
              :data-safe="r.remedy"
              @change="toggle(r.remedy)"
            />
            <span
              ><b>{{ r.title }}</b>
              <span class="soft">{{ countOf(r.steps, 'step') }} on {{ countOf(r.assets, 'asset') }}</span
              ><small class="soft">{{ r.about }}</small></span
            >
          </label>
        </li>
      </ul>
      <p v-if="plan" class="left soft">
        What would be left:
        <span><LevelShape state="stop" /> {{ plan.left.stops }}</span>
        <span><LevelShape state="caution" /> {{ plan.left.cautions }}</span>
        <span><LevelShape state="note" /> {{ plan.left.notes }}</span>
      </p>
      <footer>
        <span class="soft">Surface, outline and the texels in use stay as they are.</span><span class="gap" />
        <button class="btn" @click="emit('close')">Leave it</button>
        <button class="btn go" data-mend :disabled="steps === 0 || bulk.busy" @click="mend">
          Mend, {{ countOf(steps, 'step') }}
        </button>
      </footer>
    </section>
  </div>
</template>

<style scoped src="../dialog.css"></style>
<style scoped>
.box {
  width: min(640px, 94vw);
  max-height: 84vh;
  display: flex;
  flex-direction: column;
}
header,
footer {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
}
footer {
  border: 0;
  border-top: 1px solid var(--line);
}
h2 {
  font: 600 15px var(--text);
}
.gap {
  flex: 1;
}
.pad {
  padding: 22px 16px;
}
ul {
  list-style: none;
  padding: 4px 16px;
  overflow: auto;
}
li {
  border-bottom: 1px solid var(--hair);
}
label {
  display: grid;
  grid-template-columns: 24px 1fr;
  align-items: start;
  padding: 8px 0;
  cursor: pointer;
}
label input {
  width: 14px;
  height: 14px;
  margin: 2px 0 0;
}
li .soft {
  margin-left: 6px;
}
li small.soft {
  margin-left: 0;
}
li b {
  font-weight: 500;
}
small {
  display: block;
  line-height: 1.35;
}
.left {
  display: flex;
  gap: 12px;
  padding: 8px 16px;
}
.left span {
  display: inline-flex;
  gap: 5px;
  align-items: center;
}
</style>
