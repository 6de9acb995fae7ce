<script setup lang="ts">
import { computed } from 'vue'
import type { ChannelFacts } from '@stern-gate/contract'

const props = defineProps<{ channel: ChannelFacts }>()
const words = { R: 'Red', G: 'Green', B: 'Blue', A: 'Alpha', grey: 'Grey' } as const
const tints = { R: '#b55a5a', G: '#5a9a6a', B: '#5a78b5', A: '#8a8a8a', grey: '#8a8a8a' } as const
/** Heights by the square root, so that one full bin does not hide the rest. */
const path = computed(() => {
  const top = Math.sqrt(Math.max(1, ...props.channel.histogram))
  return `M0 48${props.channel.histogram.map((n, i) => `L${i} ${(48 - (Math.sqrt(n) / top) * 46).toFixed(1)}`).join('')}L255 48z`
})
</script>

<template>
  <h3>
    <span>{{ words[channel.name] }}</span><span class="mono"
      >{{ (channel.mean * 255).toFixed(1) }}
      <span class="unit">± {{ (channel.deviation * 255).toFixed(1) }}</span></span
    >
  </h3>
  <svg
    viewBox="0 0 255 48"
    preserveAspectRatio="none"
    role="img"
    :aria-label="`${words[channel.name]}: least ${(channel.min * 255).toFixed(0)}, most ${(channel.max * 255).toFixed(0)}`"
  >
    <path :d="path" :fill="tints[channel.name]" />
  </svg>
</template>

<style scoped>
h3 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin: 2px 0 5px;
  display: flex;
  justify-content: space-between;
}
svg {
  display: block;
  width: 100%;
  height: 48px;
  margin-bottom: 10px;
  border-bottom: 1px solid var(--line);
}
</style>
