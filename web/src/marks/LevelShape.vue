<script setup lang="ts">
import type { StationState } from '@stern-gate/contract'

// Levels are colour and shape and word: the shape never stands alone, the caller gives the word
defineProps<{ state: StationState | 'waived' }>()
</script>

<template>
  <svg class="level" viewBox="0 0 14 14" aria-hidden="true">
    <path v-if="state === 'stop'" d="M7 .8 13.2 7 7 13.2 .8 7z" fill="var(--stop)" />
    <g v-else-if="state === 'caution'"><path d="M1 9.6a6 6 0 0 1 12 0z" fill="var(--caution)" /><path d="M1 11.600h12" stroke="var(--caution)" stroke-width="1.4" /></g>
    <circle v-else-if="state === 'note'" cx="7" cy="7" r="4.6" fill="none" stroke="var(--note)" stroke-width="1.8" />
    <path v-else-if="state === 'clear'" d="M3.2 7.400 6 10l4.800-6" fill="none" stroke="var(--clear)" stroke-width="1.7" opacity=".75" />
    <g v-else-if="state === 'waived'" stroke="var(--soft)" stroke-width="1.6" fill="none"><circle cx="7" cy="7" r="4.6" /><path d="M3 11 11 3" /></g>
    <path v-else d="M5 7h4" stroke="var(--line)" stroke-width="1.6" />
  </svg>
</template>

<style scoped>
.level { width: 13px; height: 13px; flex: none; vertical-align: -2px; }
</style>
