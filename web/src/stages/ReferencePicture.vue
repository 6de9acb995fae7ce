<script setup lang="ts">
import { ref } from 'vue'
import StageDivider from './StageDivider.vue'

// A picture that the model is held against: left of a divider, or behind it all
defineProps<{ address: string; mode: 'beside' | 'behind'; background: string }>()
const at = ref(0.5)
</script>

<template>
  <img
    :class="mode"
    :src="address"
    alt="Reference picture"
    data-reference
    :style="mode === 'beside' ? { clipPath: `inset(0 ${(1 - at) * 100}% 0 0)`, background } : undefined"
  />
  <StageDivider
    v-if="mode === 'beside'"
    :at="at"
    word="picture"
    between="the picture and the model"
    @move="(to) => (at = to)"
  />
</template>

<style scoped>
img {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  object-fit: contain;
  pointer-events: none;
}
img.behind {
  z-index: -1;
}
</style>
