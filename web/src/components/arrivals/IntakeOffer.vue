<script setup lang="ts">
import type { Delivery } from '@stern-gate/contract'
import { useIntake } from '../../stores/intake'

// A preset fits what came, or was applied to it: one click takes it in that way, or as it came
defineProps<{ deliveries: readonly Delivery[] }>()
defineEmits<{ close: [string] }>()
const intake = useIntake()
</script>

<template>
  <section v-for="d in deliveries" :key="d.id" class="offer" role="status">
    <template v-if="d.intake">
      <p>
        <b>Delivery {{ d.number }}</b> {{ d.note }} was taken in by the preset <b>{{ d.intake.name }}</b>.
      </p>
      <button class="btn" data-as-it-came @click="intake.takeIn(d.id, null)">Take it as it came</button>
    </template>
    <template v-else>
      <p>
        <b>Delivery {{ d.number }}</b> {{ d.note }} came as it was. The preset <b>{{ d.suggested }}</b> fits
        it.
      </p>
      <button class="btn go" @click="intake.takeIn(d.id, d.suggested)">Take it in by this preset</button>
    </template>
    <button class="btn" :aria-label="`Leave delivery ${d.number} as it is`" @click="$emit('close', d.id)">
      ×
    </button>
  </section>
</template>

<style scoped>
.offer {
  display: flex;
  gap: 8px;
  align-items: center;
  background: var(--wash);
  border: 1px solid var(--tide);
  border-radius: 3px;
  padding: 7px 8px 7px 12px;
}
p {
  flex: 1;
}
</style>
