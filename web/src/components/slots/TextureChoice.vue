<script setup lang="ts">
import type { BenchTexture } from '@stern-gate/contract'

// One texture of the asset, or none
defineProps<{
  name: string
  label: string
  /** Empty: none. */
  value: string
  textures: readonly BenchTexture[]
  locked: boolean
}>()
const emit = defineEmits<{ choose: [name: string | null] }>()
const choose = (event: Event): void => emit('choose', (event.target as HTMLSelectElement).value || null)
</script>

<template>
  <label class="plain">
    <span>{{ label }}</span>
    <select class="field" :value="value" :disabled="locked" :data-texture-choice="name" @change="choose">
      <option value="">none</option>
      <option v-for="t in textures" :key="t.name" :value="t.name">{{ t.name }}</option>
    </select>
  </label>
</template>

<style scoped src="../forms/field.css" />
<style scoped src="./plainLine.css" />
