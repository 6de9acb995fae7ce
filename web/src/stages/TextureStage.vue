<script setup lang="ts">
import { troubleWords } from '../words/troubleWords'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { formatWords, type BenchTexture } from '@stern-gate/contract'
import { pictureAddress } from '../api/client'
import { useNight } from '../theme/useNight'
import StageTrouble from './StageTrouble.vue'
import ChartNeatline, { type Scale } from './ChartNeatline.vue'
import StageDivider from './StageDivider.vue'
import {
  createTextureStage,
  type TextureFrame,
  type TextureStage,
  type TexelReading,
  type TextureView,
} from './textureStage'

const props = defineProps<{
  texture: BenchTexture | null
  before: BenchTexture | null
  textures: readonly BenchTexture[]
  view: TextureView
  badge: string
  beforeWord: string
  /** Cells of the sheet that the mesh uses; null: not known. */
  islands: Uint8Array | null
  /** What the mesh does not use is dimmed. */
  dims: boolean
  mip: number
}>()
const emit = defineEmits<{ view: [TextureView]; choose: [string]; dims: [boolean]; mip: [number] }>()
const night = useNight()
const canvas = ref<HTMLCanvasElement | null>(null),
  host = ref<HTMLElement | null>(null)
const scale = shallowRef<Scale | null>(null)
const reading = shallowRef<TexelReading | null>(null)
const divider = ref(0.5)
const trouble = ref('')
let stage: TextureStage | null = null,
  watcher: ResizeObserver | null = null

const channels = computed(() => props.texture?.facts?.header.channels ?? 4)
const views = computed<[TextureView, string][]>(() => [
  ['all', 'All'],
  ...(channels.value > 2
    ? ([
        ['R', 'R'],
        ['G', 'G'],
        ['B', 'B'],
      ] as [TextureView, string][])
    : []),
  ...(channels.value % 2 === 0 ? ([['A', 'A']] as [TextureView, string][]) : []),
  ...(props.texture?.role === 'normal' ? ([['light', 'Under light']] as [TextureView, string][]) : []),
  ['tiled', 'Tiled'],
  ...(differs.value ? ([['error', 'Difference × 8']] as [TextureView, string][]) : []),
])
const lastMip = computed(() => {
  const h = props.texture?.facts?.header
  return h ? Math.floor(Math.log2(Math.max(h.width, h.height))) : 0
})
const differs = computed(() => props.before?.sha256 != null && props.before.sha256 !== props.texture?.sha256)
const frame = computed<TextureFrame | null>(() => {
  const after = props.texture ? pictureAddress(props.texture) : null
  if (!after) return null
  const grey = (night.value ? 0x5a : 0x77) / 255
  return {
    after,
    before: differs.value ? pictureAddress(props.before!) : null,
    view: props.view === 'error' && !differs.value ? 'all' : props.view,
    divider: divider.value,
    green: 'up',
    background: [grey, grey, grey],
    islands: props.dims ? props.islands : null,
    mip: Math.min(props.mip, lastMip.value),
  }
})
async function redraw(): Promise<void> {
  if (!stage || !frame.value) return
  try {
    trouble.value = ''
    await stage.draw(frame.value)
    // The page may have gone on meanwhile
    if (canvas.value) canvas.value.dataset['ready'] = 'yes'
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
onMounted(() => {
  if (!canvas.value || !host.value) return
  try {
    stage = createTextureStage(canvas.value, (p) => {
      scale.value = { pxPerUnit: p.pxPerTexel, zeroX: p.zeroX, zeroY: p.zeroY, unit: 'texels' }
    })
  } catch (error) {
    trouble.value = troubleWords(error)
    return
  }
  watcher = new ResizeObserver(() => stage?.resize())
  watcher.observe(host.value)
  stage.resize()
  void redraw()
})
watch(frame, redraw)
onBeforeUnmount(() => {
  watcher?.disconnect()
  stage?.dispose()
})
const look = (event: PointerEvent): void => {
  reading.value = stage?.read(event.offsetX, event.offsetY) ?? null
}
const values = computed(() =>
  reading.value ? reading.value.values.slice(0, channels.value % 2 === 0 ? 4 : 3).join(' ') : '',
)
const vector = computed(() =>
  reading.value && props.texture?.role === 'normal'
    ? reading.value.values
        .slice(0, 3)
        .map((v) => (v / 127.5 - 1).toFixed(2).replace('-', '−'))
        .join(' ')
    : '',
)
</script>

<template>
  <ChartNeatline :scale="scale">
    <div ref="host" class="host">
      <canvas
        ref="canvas"
        tabindex="0"
        :aria-label="`Texture ${texture?.name ?? ''}, ${view}`"
        @pointermove="look"
        @pointerleave="reading = null"
      />
      <div class="tools" role="toolbar" aria-label="View">
        <button
          v-for="[key, word] in views"
          :key="key"
          :class="{ on: key === view }"
          :aria-pressed="key === view"
          @click="emit('view', key)"
        >
          {{ word }}
        </button>
        <button
          v-if="islands"
          class="first"
          :class="{ on: dims }"
          :aria-pressed="dims"
          title="What the mesh uses of it, in cells of a 256th of its side"
          data-islands
          @click="emit('dims', !dims)"
        >
          Islands
        </button>
        <label v-if="lastMip > 0" title="Mip levels, as the graphics card makes them">
          Mip
          <input
            type="range"
            min="0"
            :max="lastMip"
            :value="Math.min(mip, lastMip)"
            aria-label="Mip level"
            data-mip
            @input="emit('mip', Number(($event.target as HTMLInputElement).value))"
          />
          <span class="mono">{{ Math.min(mip, lastMip) }}</span>
        </label>
        <button @click="stage?.fit()">Whole</button>
      </div>
      <span v-if="reading" class="hud read"
        >x {{ reading.x }} y {{ reading.y }} · {{ values
        }}<template v-if="vector"> · {{ vector }}</template></span
      >
      <StageDivider
        v-if="frame?.before && frame.view !== 'error'"
        :at="divider"
        :word="beforeWord"
        @move="(at) => (divider = at)"
      />
      <span v-if="badge" class="hud badge">{{ badge }}</span>
      <div v-if="textures.length > 1" class="tray" role="toolbar" aria-label="Texture">
        <button
          v-for="t in textures"
          :key="t.name"
          :class="{ on: t.name === texture?.name }"
          :title="t.name"
          :aria-label="t.name"
          @click="emit('choose', t.name)"
        >
          <img v-if="pictureAddress(t)" :src="pictureAddress(t)!" alt="" /><span v-else>×</span>
        </button>
      </div>
      <StageTrouble
        v-if="trouble || !frame"
        :text="
          trouble ||
          texture?.fault?.why ||
          (texture
            ? `The texels of ${texture.facts ? formatWords(texture.facts.header.format) : ''} files are not shown yet.`
            : 'There is no texture.')
        "
        :retry="trouble !== ''"
        @again="redraw"
      />
    </div>
  </ChartNeatline>
</template>

<style scoped src="./stage.css" />
<style scoped>
canvas {
  cursor: crosshair;
}
.tray {
  position: absolute;
  left: 50%;
  bottom: 8px;
  transform: translateX(-50%);
  display: flex;
  gap: 3px;
  padding: 3px;
  background: var(--hud);
  border-radius: 3px;
}
.tray button {
  width: 34px;
  height: 34px;
  padding: 0;
  border: 2px solid transparent;
  border-radius: 2px;
  background: none;
  color: #fff;
  cursor: pointer;
  overflow: hidden;
}
.tray button.on {
  border-color: var(--mast-mark);
}
.tray img {
  width: 100%;
  height: 100%;
  object-fit: cover;
  display: block;
}
</style>
