<script setup lang="ts">
import { computed } from 'vue'
import type { OptionValue, RemedyField } from '@stern-gate/contract'
import { fieldLabel } from '../../bench/stepFields'

// A list of numbers, such as one for each level; what is no number is not taken
const props = defineProps<{ field: RemedyField; values: OptionValue | undefined }>()
const emit = defineEmits<{ change: [number[]] }>()

const numbers = computed(() => (Array.isArray(props.values) ? props.values : []))
const isFull = computed(() => numbers.value.length >= (props.field.items ?? Infinity))

function take(at: number, event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const value = Number(text)
  if (text !== '' && Number.isFinite(value)) emit('change', numbers.value.with(at, value))
}
/** A first number where none is nearer at hand. */
const FIRST = 0.01
/** Goes on as the last two do: twice as much where they doubled. */
function add(): void {
  const [last = props.field.min || FIRST, before] = [...numbers.value].reverse()
  const next = before !== undefined && before > 0 ? (last * last) / before : last
  emit('change', [...numbers.value, Math.min(Number(next.toPrecision(4)), props.field.max ?? Infinity)])
}
</script>

<template>
  <span class="list" :data-field="field.name">
    <span v-for="(value, i) in numbers" :key="i" class="item">
      <input
        class="mono"
        type="number"
        step="any"
        :min="field.min"
        :max="field.max"
        :value="value"
        :aria-label="`${fieldLabel(field)} ${i + 1}`"
        @change="take(i, $event)"
      />
      <button
        type="button"
        class="out"
        :aria-label="`Take out ${value}`"
        @click="emit('change', numbers.toSpliced(i, 1))"
      >
        ×
      </button>
    </span>
    <button v-if="!isFull" type="button" class="btn" data-add-number @click="add">Add a number</button>
  </span>
</template>

<style scoped>
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
}
.item {
  display: inline-flex;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
}
.item input {
  width: 84px;
  border: 0;
  background: none;
  padding: 5px 2px 5px 8px;
  font-size: 12.5px;
}
.out {
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
}
.btn {
  padding: 3px 9px;
  font-size: 12px;
}
.item input:invalid {
  color: var(--stop);
}
</style>
