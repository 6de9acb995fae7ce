<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { NVirtualList } from 'naive-ui'
import { useBulk } from '../../stores/bulk'
import { useLibrary } from '../../stores/library'
import { useProject } from '../../stores/project'
import AssetLine from './AssetLine.vue'

// The list of the library; it asks for the lines that come into view
const LINE = 45
/** Lines above and below the window that are read before they are seen. */
const AHEAD = 20
const library = useLibrary()
const bulk = useBulk()
const project = useProject()
const box = ref<HTMLElement | null>(null)

function look(): void {
  const scroller = box.value?.querySelector<HTMLElement>('.v-vl')
  const top = scroller?.scrollTop ?? 0,
    height = scroller?.clientHeight ?? window.innerHeight
  library.see(Math.floor(top / LINE) - AHEAD, Math.ceil((top + height) / LINE) + AHEAD)
}
onMounted(look)
</script>

<template>
  <div ref="box" class="library">
    <NVirtualList class="list" :items="library.lines" :item-size="LINE" key-field="place" @scroll="look">
      <template #default="{ item }">
        <AssetLine
          v-if="item.row"
          :key="item.place"
          :asset="item.row"
          :chosen="bulk.chosen.has(item.row.id)"
          :to="{ name: 'bench', params: { project: project.openId, asset: item.row.id } }"
          @toggle="bulk.toggle(item.row.id)"
        />
        <div v-else :key="`coming ${item.place}`" class="coming" aria-hidden="true"><i /></div>
      </template>
    </NVirtualList>
  </div>
</template>

<style scoped>
.library {
  flex: 1;
  min-height: 0;
  display: flex;
}
.list {
  flex: 1;
  min-height: 0;
}
.coming {
  height: 45px;
  display: flex;
  align-items: center;
  padding: 0 18px 0 82px;
  border-bottom: 1px solid var(--hair);
}
.coming i {
  width: 220px;
  height: 8px;
  border-radius: 3px;
  background: var(--hair);
}
</style>
