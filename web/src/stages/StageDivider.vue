<script setup lang="ts">
// The line between before and after on a stage; `at` is its place as a share of the stage's width
const props = withDefaults(defineProps<{ at: number; word: string; between?: string }>(), {
  between: 'before and after',
})
const emit = defineEmits<{ move: [at: number] }>()

const within = (at: number): number => Math.min(0.98, Math.max(0.02, at))
function drag(event: PointerEvent): void {
  const box = (event.currentTarget as HTMLElement).parentElement!.getBoundingClientRect()
  const move = (e: PointerEvent) => emit('move', within((e.clientX - box.left) / box.width))
  const up = () => {
    removeEventListener('pointermove', move)
    removeEventListener('pointerup', up)
  }
  event.preventDefault()
  addEventListener('pointermove', move)
  addEventListener('pointerup', up)
}
function nudge(event: KeyboardEvent): void {
  const step = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0
  if (step !== 0) emit('move', within(props.at + step))
}
</script>

<template>
  <button
    class="handle"
    role="slider"
    :aria-label="`Divider between ${between}`"
    :aria-valuenow="Math.round(at * 100)"
    aria-valuemin="2"
    aria-valuemax="98"
    :style="{ left: `${at * 100}%` }"
    @pointerdown="drag"
    @keydown="nudge"
  >
    ‹ ›
  </button>
  <span class="hud word">{{ word }}</span>
</template>

<style scoped src="./stage.css" />
<style scoped>
.handle {
  position: absolute;
  top: 50%;
  width: 24px;
  height: 24px;
  margin: -12px 0 0 -12px;
  border-radius: 50%;
  border: 0;
  background: #fff;
  color: #17323a;
  font: 600 12px/1 var(--text);
  cursor: ew-resize;
  padding: 0;
}
.word {
  left: 8px;
  bottom: 8px;
}
</style>
