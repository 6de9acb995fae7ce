<script setup lang="ts">
import { onBeforeUnmount } from 'vue'
import LevelShape from '../../marks/LevelShape.vue'
import { useServerState } from '../../stores/serverState'

// What the server waits for, for as long as it does
const server = useServerState()
onBeforeUnmount(server.follow())
</script>

<template>
  <div v-if="server.said" class="band" role="status" data-server-waits>
    <LevelShape state="caution" />
    <p>{{ server.said }}</p>
  </div>
</template>

<style scoped>
.band {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 7px 14px;
  background: var(--sheet);
  border-bottom: 2px solid var(--caution);
}
</style>
