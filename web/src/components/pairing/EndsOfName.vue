<script setup lang="ts">
// A name that loses its beginning where room is short: its end says what it is
defineProps<{ name: string }>()
</script>

<template>
  <span class="ends"
    ><bdi>{{ name }}</bdi></span
  >
</template>

<style scoped>
.ends {
  display: block;
  direction: rtl;
  text-align: left;
  white-space: pre;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
