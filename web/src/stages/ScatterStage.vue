<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { scatterCopies, scatterCost } from '@stern-gate/core/lods'
import { formatCount, formatLength } from '@stern-gate/core/numbers'
import { useNight } from '../theme/useNight'
import { bytesText } from '../words/formats'
import { troubleWords } from '../words/troubleWords'
import { listenToHand } from './listenToHand'
import { sizeOf, type Switches } from './levelsLayout'
import ScatterBars from './ScatterBars.vue'
import { createScatterStage, type ScatterDrawn, type ScatterStage } from './scatterStage'
import StageTrouble from './StageTrouble.vue'

// Many copies on a ground, as the game sees them: through the target's lens, from a person's eyes, levels switching
const props = defineProps<{ state: AssetState; switches: Switches; personHeight: number; badge: string }>()
const emit = defineEmits<{ row: []; model: [] }>()
const night = useNight()
const canvas = ref<HTMLCanvasElement | null>(null),
  host = ref<HTMLElement | null>(null)
/** Of ten: so many copies. */
const power = ref(2.5),
  vary = ref(0.2),
  apart = ref<number | null>(null),
  switching = ref(true)
const trouble = ref(''),
  ready = ref(false)
const drawn = shallowRef<ScatterDrawn | null>(null)
let stage: ScatterStage | null = null,
  watcher: ResizeObserver | null = null,
  leaveHand = (): void => undefined

/** Of the whole height of a person, as anatomy has it. */
const EYES = 0.936
/** Radians that a drag of a pixel turns. */
const TURN = 0.004
const count = computed(() => Math.round(10 ** power.value / 10) * 10)
/** The longer side of the finest level on the ground, metres. */
const length = computed(() => {
  const [x, , z] = sizeOf(props.state)
  return Math.max(x, z, 0.01)
})
const spacing = computed(() => apart.value ?? length.value * 1.5)
const copies = computed(() => scatterCopies(count.value, spacing.value, vary.value))
const used = computed<Switches>(() => (switching.value ? props.switches : { levels: [], cull: Infinity }))
const memory = computed(() => props.state.memory.find((m) => m.title === props.state.screen.title))
const triangles = computed(() => props.state.levels.map((l) => l.triangles))
const frame = computed(() =>
  props.state.model && props.state.levels.length > 0
    ? {
        model: props.state.model,
        levels: props.state.levels.map((l) => l.nodes),
        copies: copies.value,
        switches: used.value,
        fovDegrees: props.state.screen.fovDegrees,
        eyeHeight: props.personHeight * EYES,
        background: night.value ? '#39474d' : '#c3ced1',
      }
    : null,
)
const cost = computed(() =>
  drawn.value ? scatterCost(copies.value, drawn.value.eye, used.value, triangles.value) : null,
)
/** Share of the triangles that levels save, of all copies. */
const saved = computed(() =>
  cost.value && cost.value.withoutLevels > 0 ? 1 - cost.value.triangles / cost.value.withoutLevels : 0,
)
async function redraw(): Promise<void> {
  if (!stage || !frame.value) return
  try {
    trouble.value = ''
    await stage.draw(frame.value)
    ready.value = true
    if (canvas.value) canvas.value.dataset['ready'] = 'yes'
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
function walk(event: KeyboardEvent): void {
  const step = Math.max(0.1, spacing.value / 3) * (event.shiftKey ? 4 : 1)
  const moves: Record<string, [number, number, number]> = {
    w: [step, 0, 0],
    ArrowUp: [step, 0, 0],
    s: [-step, 0, 0],
    ArrowDown: [-step, 0, 0],
    a: [0, -step, 0],
    d: [0, step, 0],
    ArrowLeft: [0, 0, 0.06],
    ArrowRight: [0, 0, -0.06],
  }
  const move = moves[event.key.length === 1 ? event.key.toLowerCase() : event.key]
  if (!move || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  event.stopPropagation()
  stage?.move(move[0], move[1], move[2], 0)
}
onMounted(() => {
  if (!canvas.value || !host.value) return
  try {
    stage = createScatterStage(canvas.value, (now) => (drawn.value = now))
  } catch (error) {
    trouble.value = `The browser gives no WebGL to draw with: ${troubleWords(error)}`
    return
  }
  leaveHand = listenToHand(canvas.value, {
    zoom: (_x, _y, factor) => stage?.move((factor > 1 ? 1 : -1) * spacing.value, 0, 0, 0),
    move: (dx, dy) => stage?.move(0, 0, dx * TURN, dy * TURN),
    hover: () => undefined,
  })
  watcher = new ResizeObserver(() => stage?.resize())
  watcher.observe(host.value)
  stage.resize()
  void redraw()
})
watch(frame, redraw)
onBeforeUnmount(() => {
  leaveHand()
  watcher?.disconnect()
  stage?.dispose()
})
</script>

<template>
  <div ref="host" class="pane">
    <canvas
      ref="canvas"
      class="whole"
      tabindex="0"
      :aria-label="`Many copies of ${state.name}: W A S D walk, a drag turns`"
      @keydown="walk"
    />
    <div class="tools" role="toolbar" aria-label="View">
      <button v-if="state.levels.length > 1" @click="emit('row')">Row</button>
      <button data-one-level @click="emit('model')">One level</button>
      <button class="on" aria-pressed="true">Many</button>
      <button
        class="first"
        :class="{ on: switching }"
        :aria-pressed="switching"
        data-switching
        @click="switching = !switching"
      >
        Levels
      </button>
      <button @click="stage?.begin()">Back</button>
    </div>
    <div class="tools second" role="toolbar" aria-label="Copies">
      <label>
        Copies
        <input
          v-model.number="power"
          type="range"
          min="1"
          max="4"
          step="0.05"
          aria-label="Copies"
          data-copies
        />
        <span class="mono">{{ formatCount(count) }}</span>
      </label>
      <label>
        Apart
        <input
          type="range"
          :min="length * 0.25"
          :max="length * 8"
          :step="length / 20"
          :value="spacing"
          aria-label="Distance from copy to copy"
          @input="apart = Number(($event.target as HTMLInputElement).value)"
        />
        <span class="mono">{{ formatLength(spacing) }}</span>
      </label>
      <label>
        Sizes ±
        <input v-model.number="vary" type="range" min="0" max="0.5" step="0.05" aria-label="How sizes vary" />
        <span class="mono">{{ Math.round(vary * 100) }} %</span>
      </label>
    </div>
    <div v-if="cost && drawn" class="cost" data-cost>
      <ul>
        <li>
          <b>{{ formatCount(drawn.triangles) }}</b> triangles in view, {{ formatCount(drawn.inView) }} copies,
          {{ drawn.calls }} {{ drawn.calls === 1 ? 'draw call' : 'draw calls' }}
        </li>
        <li>
          <b>{{ formatCount(cost.triangles) }}</b> triangles all around<template v-if="saved > 0.005"
            >, {{ Math.round(saved * 100) }} % less than without levels</template
          ><template v-if="cost.culled > 0">; {{ formatCount(cost.culled) }} copies too far away</template>
        </li>
        <li v-if="memory">{{ bytesText(memory.bytes) }} of textures for all of them together</li>
        <li class="counts">
          <span v-for="(n, i) in cost.copies" :key="i">LOD {{ i }}: {{ formatCount(n) }} </span>
        </li>
      </ul>
      <ScatterBars :cost="cost" />
    </div>
    <span class="hud lens">{{ state.screen.title }}, {{ state.screen.fovDegrees }}° · W A S D, drag</span>
    <span v-if="badge" class="hud badge">{{ badge }}</span>
    <StageTrouble
      v-if="trouble || !frame"
      :text="trouble || 'There is no geometry to show.'"
      :retry="trouble !== ''"
      @again="redraw"
    />
    <p v-else-if="!ready" class="hud trouble" role="status">Reading the model …</p>
  </div>
</template>

<style scoped src="./stage.css" />
<style scoped>
.cost {
  position: absolute;
  left: 8px;
  bottom: 8px;
  width: 400px;
  padding: 6px 10px 4px;
  border-radius: 3px;
  background: var(--hud);
  color: var(--hud-ink);
  font: 500 12px/1.5 var(--narrow);
}
ul {
  list-style: none;
  margin: 0 0 4px;
  padding: 0;
}
.counts {
  opacity: 0.8;
}
.counts span {
  margin-right: 10px;
}
.lens {
  right: 8px;
  bottom: 8px;
}
</style>
