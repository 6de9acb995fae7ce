<script setup lang="ts">
import type { Fault } from '@stern-gate/contract'
import LevelShape from '../../marks/LevelShape.vue'

defineProps<{ fault: Fault }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <div class="band" role="alert">
    <LevelShape state="stop" />
    <p>
      <b>{{ fault.why }}</b> {{ fault.hint }}
      <span class="mono soft"
        >{{ fault.code }}<template v-if="fault.where.file"> · {{ fault.where.file }}</template></span
      >
    </p>
    <button class="btn" @click="$emit('close')">Put away</button>
  </div>
</template>

<style scoped>
.band {
  grid-row: 1;
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 14px;
  background: var(--sheet);
  border-bottom: 2px solid var(--stop);
}
p {
  flex: 1;
}
</style>
