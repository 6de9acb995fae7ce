<script setup lang="ts">
// Why a stage shows nothing, with a way to try again where that may help
defineProps<{ text: string; retry: boolean }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <div class="hud trouble" role="status">
    <span>{{ text }}</span>
    <button v-if="retry" class="again" @click="$emit('again')">Try again</button>
  </div>
</template>

<style scoped src="./stage.css" />
<style scoped>
.again {
  display: block;
  margin: 8px auto 0;
  padding: 4px 10px;
  border: 1px solid currentColor;
  border-radius: 3px;
  background: none;
  color: inherit;
  cursor: pointer;
}
</style>
