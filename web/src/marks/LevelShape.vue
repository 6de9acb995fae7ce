<script setup lang="ts">
import { levelShapes, type LevelState } from './levelShapes'

defineProps<{ state: LevelState }>()
</script>

<template>
  <svg class="level" viewBox="0 0 14 14" aria-hidden="true" v-html="levelShapes[state]" />
</template>

<style scoped>
.level {
  width: 13px;
  height: 13px;
  flex: none;
  vertical-align: -2px;
}
</style>
