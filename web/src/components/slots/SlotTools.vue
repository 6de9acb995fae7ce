<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { RemedyOptions } from '@stern-gate/contract'

// What is done with a slot as a whole: its name, alone on the stage, merged into another, taken out
const props = defineProps<{
  slotName: string
  names: readonly string[]
  unused: boolean
  alone: boolean
  locked: boolean
}>()
const emit = defineEmits<{
  alone: [boolean]
  part: []
  step: [remedy: string, options: RemedyOptions]
}>()
const typed = ref<string | null>(null)
watch(
  () => props.slotName,
  () => (typed.value = null),
)
const others = computed(() => props.names.filter((n) => n !== props.slotName))
const taken = computed(() => typed.value !== null && others.value.includes(typed.value.trim()))
function rename(): void {
  const to = typed.value?.trim()
  if (!to || taken.value) return
  typed.value = null
  if (to !== props.slotName) emit('step', 'names/rename', { what: 'slot', from: props.slotName, to })
}
</script>

<template>
  <div class="tools">
    <button
      class="btn"
      :class="{ on: alone }"
      :aria-pressed="alone"
      title="Only this slot is drawn"
      data-alone
      @click="emit('alone', !alone)"
    >
      Alone
    </button>
    <button v-if="typed === null" class="btn" :disabled="locked" data-rename @click="typed = slotName">
      Rename
    </button>
    <button
      v-if="typed === null && !unused"
      class="btn"
      :disabled="locked"
      title="Pick triangles on the model: they get a slot of their own"
      data-part
      @click="emit('part')"
    >
      Part …
    </button>
    <select
      v-if="typed === null && others.length > 0"
      class="field"
      value=""
      :disabled="locked"
      aria-label="Merge into another slot"
      @change="
        emit('step', 'slots/merge', { slot: slotName, keep: ($event.target as HTMLSelectElement).value })
      "
    >
      <option value="" disabled>Merge into …</option>
      <option v-for="n in others" :key="n" :value="n">{{ n }}</option>
    </select>
    <button
      v-if="typed === null && unused"
      class="btn"
      :disabled="locked"
      title="Every slot that nothing wears is taken out"
      @click="emit('step', 'slots/drop-unused', {})"
    >
      Drop
    </button>
    <input
      v-if="typed !== null"
      v-model="typed"
      class="field mono"
      :class="{ taken }"
      aria-label="New name of the slot"
      :title="taken ? 'Another slot has this name' : ''"
      autofocus
      @keydown.enter.stop="rename"
      @keydown.esc.stop="typed = null"
    />
    <button v-if="typed !== null" class="btn" :disabled="taken" @click="rename">Keep</button>
  </div>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  margin-top: 6px;
}
.btn {
  padding: 2px 8px;
  font-size: 12px;
}
.btn.on {
  background: var(--wash);
  border-color: var(--tide);
}
.field {
  flex: 1 1 0;
}
.taken {
  border-color: var(--stop);
}
</style>
