<script setup lang="ts">
import { computed } from 'vue'
import type { ChannelFacts } from '@stern-gate/contract'
import { formatShare } from '@stern-gate/core/numbers'

// How the alpha of a base colour is spread, with the threshold under which a cutout draws nothing
const props = defineProps<{ alpha: ChannelFacts; cutoff: number; factor: number }>()
const bins = computed(() => props.alpha.histogram)
/** So many values stand in one bar: a thin one would not be seen. */
const TOGETHER = 8
/** Heights by the square root, so that one full bar does not hide the rest. */
const bars = computed(() => {
  const sums = Array.from({ length: bins.value.length / TOGETHER }, (_, k) =>
    bins.value.slice(k * TOGETHER, (k + 1) * TOGETHER).reduce((sum, n) => sum + n, 0),
  )
  const top = Math.sqrt(Math.max(1, ...sums))
  return sums.map((n, k) => ({ x: k * TOGETHER, height: (Math.sqrt(n) / top) * 32 }))
})
/** Alpha of the texture at which the product with the factor reaches the threshold. */
const threshold = computed(() => (props.factor > 0 ? Math.min(1, props.cutoff / props.factor) : 1))
const shares = computed(() => {
  const all = bins.value.reduce((sum, n) => sum + n, 0) || 1,
    last = bins.value.length - 1
  const sumOf = (from: number, to: number): number =>
    bins.value.slice(from, to).reduce((sum, n) => sum + n, 0) / all
  return {
    drawn: sumOf(Math.ceil(threshold.value * last), last + 1),
    soft: sumOf(Math.ceil(0.05 * last), Math.floor(0.95 * last) + 1),
  }
})
</script>

<template>
  <figure data-alpha-histogram>
    <svg
      viewBox="0 0 255 34"
      preserveAspectRatio="none"
      role="img"
      :aria-label="`Alpha of the base colour; ${formatShare(shares.drawn)} of the texels are drawn as a cutout`"
    >
      <rect v-for="b in bars" :key="b.x" :x="b.x" :y="34 - b.height" :height="b.height" width="7.5" />
      <line :x1="threshold * 255" :x2="threshold * 255" y1="0" y2="34" />
    </svg>
    <figcaption>
      as a cutout {{ formatShare(shares.drawn) }} drawn · {{ formatShare(shares.soft) }} in between
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 2px 0 5px;
}
svg {
  display: block;
  width: 100%;
  height: 34px;
  border-bottom: 1px solid var(--line);
}
rect {
  fill: var(--soft);
  opacity: 0.55;
}
line {
  stroke: var(--tide);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
figcaption {
  font: 500 11.5px/1.5 var(--narrow);
  color: var(--soft);
}
</style>
