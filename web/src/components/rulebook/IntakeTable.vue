<script setup lang="ts">
import { computed, onMounted } from 'vue'
import { absentFates, type RemedyField } from '@stern-gate/contract'
import { fieldLabel } from '../../bench/stepFields'
import { useIntake } from '../../stores/intake'
import ValueTable, { type ValueRow } from './ValueTable.vue'

// Intake presets side by side: what each fits, and how what it fits is taken in
const intake = useIntake()
onMounted(() => void intake.fetchFields())
const kinds: Partial<Record<RemedyField['kind'], ValueRow['kind']>> = {
  switch: 'switch',
  choice: 'choice',
  number: 'number',
  whole: 'whole',
}
const rows = computed<ValueRow[]>(() => [
  { title: 'Fits folders with', path: ['folder'], kind: 'text' },
  { title: 'Fits generators with', path: ['generator'], kind: 'text' },
  ...(intake.remedy?.fields ?? []).map((f): ValueRow => ({
    title: fieldLabel(f),
    path: ['options', f.name],
    kind: kinds[f.kind] ?? 'text',
    default: f.default,
    ...(f.choices ? { choices: f.choices } : {}),
  })),
  {
    title: 'Files of several things are taken apart',
    path: ['apart'],
    kind: 'choice',
    choices: ['top', 'groups', 'name', 'distance', 'nodes'],
    none: 'as the rulebook says',
  },
  {
    title: 'What a new version lacks',
    path: ['absent'],
    kind: 'choice',
    choices: absentFates,
    default: 'ask',
  },
  { title: 'What is safe is mended on arrival', path: ['mend'], kind: 'switch' },
])
</script>

<template>
  <ValueTable
    root="intake"
    :rows="rows"
    word="preset"
    empty="A preset says how files of one source are taken in: their unit and axes, what is left out, what becomes of parts that a new version lacks. A delivery whose folder or generator it fits has it suggested at Arrivals."
  />
</template>
