<script setup lang="ts">
import { NVirtualList } from 'naive-ui'
import type { LeftBehind } from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core/numbers'
import LevelShape from '../../marks/LevelShape.vue'
import { useProject } from '../../stores/project'

// Assets that stay behind, each with why, and a way to it
defineProps<{ rows: readonly LeftBehind[]; total: number; title: string }>()
const project = useProject()
</script>

<template>
  <div class="left">
    <h2>
      {{ title }}
      <span class="mono">{{ formatCount(total) }}</span>
    </h2>
    <NVirtualList class="list" :items="[...rows]" :item-size="44" key-field="asset">
      <template #default="{ item }">
        <RouterLink
          :key="item.asset"
          class="line"
          :to="{ name: 'bench', params: { project: project.openId, asset: item.asset } }"
        >
          <LevelShape :state="item.stops > 0 ? 'stop' : 'none'" />
          <span class="name"
            ><b class="mono">{{ item.name }}</b
            ><small class="soft" :title="item.why">{{ item.why }}</small></span
          >
          <span v-if="item.stops > 1" class="soft narrow">{{ item.stops }} stops</span>
        </RouterLink>
      </template>
    </NVirtualList>
    <p v-if="rows.length < total" class="soft more">
      … and {{ formatCount(total - rows.length) }} more; Assets lists them all.
    </p>
  </div>
</template>

<style scoped>
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
}
h2 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin: 6px 0;
  display: flex;
  justify-content: space-between;
}
.list {
  flex: 1;
  min-height: 120px;
  border-top: 1px solid var(--hair);
}
.line {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  height: 44px;
  padding: 0 6px;
  border-bottom: 1px solid var(--hair);
  color: inherit;
  text-decoration: none;
}
.line:hover {
  background: var(--wash);
}
.name {
  display: grid;
  min-width: 0;
}
.name b {
  font-weight: 500;
}
.name small {
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.more {
  padding: 6px;
}
</style>
