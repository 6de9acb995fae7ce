<script setup lang="ts">
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { formatCount, formatLength, formatShare } from '@stern-gate/core/numbers'
import { pixelsAtOneMetre } from '@stern-gate/core/lods'
import { pixelDiffers, type LevelsStage, type SwitchPictures } from './levelsStage'

// Two levels at the distance where one takes over from the other, pixel by pixel: flipped, or what differs
const props = defineProps<{ stage: LevelsStage; state: AssetState; at: number; distance: number }>()
const emit = defineEmits<{ close: [] }>()
const shows = ['finer', 'coarser', 'difference'] as const
const shown = ref<(typeof shows)[number]>('difference')
const pictures = ref<SwitchPictures | null>(null)
const canvas = useTemplateRef('canvas')
const levels = computed(
  () => [props.state.levels[props.at]!.level, props.state.levels[props.at + 1]!.level] as const,
)
const share = computed(() =>
  pictures.value && pictures.value.drawn > 0 ? pictures.value.differing / pictures.value.drawn : 0,
)
const FAULT = [255, 61, 154]

function take(): void {
  pictures.value = props.stage.compare(
    levels.value[0],
    levels.value[1],
    props.distance,
    pixelsAtOneMetre(props.state.screen),
  )
  paint()
}
/** Rows come from the bottom. */
function paint(): void {
  const now = pictures.value,
    context = canvas.value?.getContext('2d')
  if (!now || !context || !canvas.value) return
  canvas.value.width = now.width
  canvas.value.height = now.height
  const image = context.createImageData(now.width, now.height)
  for (let y = 0; y < now.height; y++)
    for (let x = 0; x < now.width; x++) {
      const from = ((now.height - 1 - y) * now.width + x) * 4,
        to = (y * now.width + x) * 4
      const source = shown.value === 'coarser' ? now.coarser : now.finer
      const marked = shown.value === 'difference' && pixelDiffers(now.finer, now.coarser, from)
      for (let i = 0; i < 3; i++) image.data[to + i] = marked ? FAULT[i]! : source[from + i]!
      image.data[to + 3] = marked ? 255 : source[from + 3]!
    }
  context.putImageData(image, 0, 0)
}
onMounted(take)
watch([() => props.at, () => props.distance, () => props.state.model], take)
watch(shown, paint)
/** What is small is enlarged by whole pixels. */
const zoom = computed(() => Math.max(1, Math.floor(190 / (pictures.value?.width ?? 190))))
</script>

<template>
  <div
    class="compare"
    role="group"
    :aria-label="`LOD ${levels[0]} and LOD ${levels[1]} where they are switched`"
  >
    <div class="head">
      <b>LOD {{ levels[0] }} → {{ levels[1] }} at {{ formatLength(distance) }}</b>
      <button class="close" aria-label="Close" @click="emit('close')">×</button>
    </div>
    <div class="picture">
      <canvas
        ref="canvas"
        :style="pictures ? { width: `${Math.min(190, pictures.width * zoom)}px` } : {}"
        data-switch-picture
      />
    </div>
    <div class="choose" role="toolbar" aria-label="What is shown">
      <button
        v-for="s in shows"
        :key="s"
        :class="{ on: s === shown }"
        :aria-pressed="s === shown"
        @click="shown = s"
      >
        {{ s === 'finer' ? `LOD ${levels[0]}` : s === 'coarser' ? `LOD ${levels[1]}` : 'Difference' }}
      </button>
    </div>
    <p v-if="pictures" data-differing>
      {{ formatCount(pictures.differing) }} of {{ formatCount(pictures.drawn) }} pixels differ,
      {{ formatShare(share) }}
    </p>
  </div>
</template>

<style scoped>
.compare {
  position: absolute;
  right: 8px;
  top: 38px;
  width: 214px;
  padding: 8px 10px;
  border-radius: 3px;
  background: var(--hud);
  color: var(--hud-ink);
  font: 500 12px/1.4 var(--narrow);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.picture {
  height: 194px;
  display: grid;
  place-items: center;
  margin: 6px 0;
  background: #777;
}
canvas {
  image-rendering: pixelated;
  max-width: 190px;
  max-height: 190px;
}
.choose {
  display: flex;
}
.choose button,
.close {
  font: 500 12px/1 var(--narrow);
  color: var(--hud-ink);
  background: none;
  border: 0;
  padding: 6px 7px;
  cursor: pointer;
}
.choose button.on {
  background: var(--hud-on);
  color: var(--hud-on-ink);
}
p {
  margin: 4px 0 0;
  font: 500 11.5px/1.4 var(--mono);
}
</style>
