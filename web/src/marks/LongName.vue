<script setup lang="ts">
// A name on one line: where room is short its middle goes, for the end tells siblings apart
defineProps<{ name: string }>()
const TAIL = 14
</script>

<template>
  <span class="long"
    ><span>{{ name.slice(0, -TAIL) }}</span
    ><span class="tail">{{ name.slice(-TAIL) }}</span></span
  >
</template>

<style scoped>
.long {
  display: flex;
  min-width: 0;
}
.long span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: pre;
}
.long .tail {
  flex: none;
}
</style>
