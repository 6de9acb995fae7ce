<script setup lang="ts">
import { computed, onBeforeUnmount, shallowRef, watch } from 'vue'
import type { WholeDetail } from '@stern-gate/contract'
import { getAsset } from '../../api/client'
import { usePairing } from '../../stores/pairing'
import ModelView from '../frame/ModelView.vue'

// The mesh of the line in a small stage, with the slot marked
const pairing = usePairing()
const detail = shallowRef<WholeDetail | null>(null)
const slot = computed(() => pairing.lines.find((l) => l.slot.id === pairing.focus?.slot)?.slot ?? null)
const WAIT_MS = 120
let timer: ReturnType<typeof setTimeout> | undefined,
  asked = 0

// Walking along the lines loads none of those that are passed by
watch(
  [() => slot.value?.owner ?? null, () => pairing.table],
  ([owner]) => {
    clearTimeout(timer)
    if (owner !== null) timer = setTimeout(() => void load(owner), WAIT_MS)
  },
  { immediate: true },
)
async function load(owner: string): Promise<void> {
  const mine = ++asked
  // What is not there any more has no picture; the list says so by itself
  const found = await getAsset(owner, null).catch(() => null)
  if (mine === asked) detail.value = found
}
onBeforeUnmount(() => clearTimeout(timer))
const state = computed(() => (detail.value?.id === slot.value?.owner ? (detail.value?.output ?? null) : null))
const shown = computed(() => state.value?.levels[0]?.nodes ?? [])
const marks = computed(() => (slot.value ? [{ kind: 'slot' as const, slot: slot.value.slot }] : []))
</script>

<template>
  <div class="view">
    <ModelView
      v-if="state?.model"
      :model="state.model"
      :shown="shown"
      :marks="marks"
      :label="`${slot?.asset ?? ''} with ${slot?.slot ?? ''} marked`"
    />
    <p v-else class="soft">
      {{ slot ? 'Reading the model …' : 'The mesh of the line you are on stands here.' }}
    </p>
  </div>
</template>

<style scoped>
.view {
  min-height: 0;
  padding: 10px 12px 6px;
  display: grid;
}
p {
  place-self: center;
}
</style>
