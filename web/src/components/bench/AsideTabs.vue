<script setup lang="ts">
import { ref } from 'vue'

// Beside the stage: what is done at this station, or the facts of it
defineProps<{ title: string }>()
const side = ref<'own' | 'facts'>('own')
</script>

<template>
  <div class="aside">
    <div class="tabs" role="tablist" aria-label="Beside the stage">
      <button
        v-for="s in ['own', 'facts'] as const"
        :key="s"
        role="tab"
        :aria-selected="s === side"
        :class="{ on: s === side }"
        :data-tab="s"
        @click="side = s"
      >
        {{ s === 'own' ? title : 'Facts' }}
      </button>
    </div>
    <slot v-if="side === 'own'" />
    <slot v-else name="facts" />
  </div>
</template>

<style scoped>
.aside {
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.tabs {
  display: flex;
  border-left: 1px solid var(--line);
  border-bottom: 1px solid var(--hair);
  padding: 0 6px;
}
.tabs button {
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  color: var(--soft);
  font: 600 12.5px/1 var(--narrow);
  padding: 8px;
  cursor: pointer;
}
.tabs .on {
  color: var(--ink);
  border-color: var(--tide);
}
</style>
