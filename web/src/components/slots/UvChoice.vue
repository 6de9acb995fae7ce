<script setup lang="ts">
// The UV channel that textures lie on, where the mesh has several
defineProps<{ name: string; value: number; channels: number; locked: boolean }>()
const emit = defineEmits<{ choose: [channel: number] }>()
const choose = (event: Event): void => emit('choose', Number((event.target as HTMLSelectElement).value))
</script>

<template>
  <label v-if="channels > 1" class="plain">
    <span>On</span>
    <select class="field" :value="value" :disabled="locked" :data-uv-choice="name" @change="choose">
      <option v-for="n in channels" :key="n" :value="n - 1">UV{{ n - 1 }}</option>
    </select>
  </label>
</template>

<style scoped src="../forms/field.css" />
<style scoped src="./plainLine.css" />
