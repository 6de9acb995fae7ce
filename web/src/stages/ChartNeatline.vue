<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { rulerTicks } from './niceStep'

// The stage's frame: a true ruler along its top and left edge
export interface Scale {
  pxPerUnit: number
  zeroX: number
  zeroY: number
  unit: 'm' | 'texels' | 'sheet'
}
const props = defineProps<{ scale: Scale | null }>()
const box = ref<HTMLElement | null>(null)
const size = ref({ width: 0, height: 0 })
const watcher = new ResizeObserver(([entry]) => {
  if (entry) size.value = { width: entry.contentRect.width, height: entry.contentRect.height }
})
onMounted(() => {
  if (box.value) watcher.observe(box.value)
})
onBeforeUnmount(() => watcher.disconnect())

function words(value: number): string {
  if (props.scale?.unit !== 'm') return String(value)
  const size = Math.abs(value)
  if (size !== 0 && size < 0.01) return `${Number((value * 1000).toPrecision(6))} mm`
  if (size !== 0 && size < 1) return `${Number((value * 100).toPrecision(6))} cm`
  return value === 0 ? '0' : `${value} m`
}
const across = computed(() =>
  props.scale ? rulerTicks(size.value.width, props.scale.pxPerUnit, props.scale.zeroX, words) : [],
)
const down = computed(() =>
  props.scale ? rulerTicks(size.value.height, props.scale.pxPerUnit, props.scale.zeroY, words) : [],
)
</script>

<template>
  <div class="neat">
    <div class="numbers" aria-hidden="true">
      <template v-for="t in across" :key="t.from"
        ><span v-if="t.label !== null" :style="{ left: `${t.from}px` }">{{ t.label }}</span></template
      >
    </div>
    <div class="top" aria-hidden="true">
      <i
        v-for="t in across"
        :key="t.from"
        :class="{ ink: t.inked }"
        :style="{ left: `${t.from}px`, width: `${t.length}px` }"
      />
    </div>
    <div class="left" aria-hidden="true">
      <i
        v-for="t in down"
        :key="t.from"
        :class="{ ink: t.inked }"
        :style="{ top: `${t.from}px`, height: `${t.length}px` }"
      />
    </div>
    <div ref="box" class="inside"><slot /></div>
  </div>
</template>

<style scoped>
.neat {
  position: relative;
  display: grid;
  grid-template: 14px 6px minmax(0, 1fr) / 6px minmax(0, 1fr);
  padding: 0 8px 8px 12px;
  min-width: 0;
  min-height: 0;
  background: var(--paper);
}
.numbers {
  grid-area: 1 / 2;
  position: relative;
  overflow: hidden;
}
.numbers span {
  position: absolute;
  top: 1px;
  font: 400 10.5px/13px var(--mono);
  color: var(--soft);
  white-space: nowrap;
}
.top,
.left {
  position: relative;
  border: 1px solid var(--ink);
  overflow: hidden;
  background: var(--paper);
}
.top {
  grid-area: 2 / 1 / 3 / 3;
  margin-left: 5px;
}
.left {
  grid-area: 3 / 1;
  border-top: 0;
}
.top i {
  position: absolute;
  top: 0;
  bottom: 0;
}
.left i {
  position: absolute;
  left: 0;
  right: 0;
}
.ink {
  background: var(--ink);
}
:root.night .top,
:root.night .left {
  border-color: var(--soft);
}
:root.night .ink {
  background: var(--soft);
}
.inside {
  grid-area: 3 / 2;
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: var(--stage);
  border: 1px solid var(--ink);
  border-top: 0;
  border-left: 0;
}
:root.night .inside {
  border-color: #000;
}
</style>
