<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { formatCount, formatLength } from '@stern-gate/core/numbers'
import { pixelsAtOneMetre } from '@stern-gate/core/lods'
import { useNight } from '../theme/useNight'
import { troubleWords } from '../words/troubleWords'
import { layLevels, type LevelRow, type Switches } from './levelsLayout'
import { createLevelsStage, type LevelsStage } from './levelsStage'
import StageTrouble from './StageTrouble.vue'
import SwitchCompare from './SwitchCompare.vue'

// The levels of an asset in a row, each as large as it is where it is first seen
const props = defineProps<{
  state: AssetState
  switches: Switches
  /** Index of the switch that is looked at: 0 is the one from the finest level; null: none. */
  looked: number | null
  badge: string
}>()
const emit = defineEmits<{ look: [number | null]; model: []; many: [] }>()
const night = useNight()
const canvas = ref<HTMLCanvasElement | null>(null),
  host = ref<HTMLElement | null>(null)
const size = shallowRef<readonly [number, number]>([600, 300])
const wire = ref(true)
const trouble = ref(''),
  drawn = ref('')
const stage = shallowRef<LevelsStage | null>(null)
let watcher: ResizeObserver | null = null

/** Room for the words under the ground, and above the highest. */
const FOOT = 78,
  HEAD = 44,
  /** … and beside it, for the comparison. */
  COMPARE = 222
const row = computed<LevelRow>(() =>
  layLevels(props.state, props.switches, [
    size.value[0] - 20 - (props.looked === null ? 0 : COMPARE),
    Math.max(60, (size.value[1] - FOOT - HEAD) * 0.86),
  ]),
)
const ground = computed(() => size.value[1] - FOOT)
const frame = computed(() =>
  props.state.model
    ? {
        model: props.state.model,
        columns: row.value.columns,
        nodes: new Map(props.state.levels.map((l) => [l.level, l.nodes])),
        pixelsAtOneMetre: pixelsAtOneMetre(props.state.screen) * row.value.scale,
        ground: ground.value,
        wire: wire.value,
        background: night.value ? '#5a5a5a' : '#777777',
      }
    : null,
)
async function redraw(): Promise<void> {
  if (!stage.value || !frame.value) return
  const { model } = frame.value
  try {
    trouble.value = ''
    await stage.value.draw(frame.value)
    drawn.value = model
    if (canvas.value) canvas.value.dataset['ready'] = 'yes'
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
onMounted(() => {
  if (!canvas.value || !host.value) return
  try {
    stage.value = createLevelsStage(canvas.value)
  } catch (error) {
    trouble.value = `The browser gives no WebGL to draw with: ${troubleWords(error)}`
    return
  }
  watcher = new ResizeObserver(() => {
    if (!host.value) return
    size.value = [host.value.clientWidth, host.value.clientHeight]
    stage.value?.resize()
  })
  watcher.observe(host.value)
  void redraw()
})
watch(frame, redraw)
onBeforeUnmount(() => {
  watcher?.disconnect()
  stage.value?.dispose()
})
const reach = (i: number): string => {
  const from = i === 0 ? 0 : props.switches.levels[i - 1]!,
    to = props.switches.levels[i] ?? props.switches.cull
  return to === Infinity ? `from ${formatLength(from)} on` : `${formatLength(from)} – ${formatLength(to)}`
}
const scaleWords = computed(() =>
  row.value.scale > 0.995
    ? `at the size of ${props.state.screen.title.toLowerCase()}’s screen`
    : `at 1 : ${(1 / row.value.scale).toPrecision(2)} of ${props.state.screen.title.toLowerCase()}’s screen`,
)
</script>

<template>
  <div ref="host" class="pane">
    <canvas ref="canvas" class="whole" tabindex="0" :aria-label="`Levels of ${state.name}`" />
    <div class="tools" role="toolbar" aria-label="View">
      <button class="on" aria-pressed="true">Row</button>
      <button aria-pressed="false" data-one-level @click="emit('model')">One level</button>
      <button aria-pressed="false" data-many @click="emit('many')">Many</button>
      <button class="first" :class="{ on: wire }" :aria-pressed="wire" @click="wire = !wire">Wire</button>
    </div>
    <div
      v-for="(c, i) in row.columns"
      :key="c.level"
      class="words"
      :style="{ left: `${c.x - c.width / 2}px`, width: `${c.width}px`, top: `${ground + 6}px` }"
      :data-column="c.level"
    >
      <b>LOD {{ c.level }}</b>
      <span>{{ formatCount(state.levels[i]!.triangles) }}</span>
      <span>{{ reach(i) }}</span>
    </div>
    <div class="ground" :style="{ top: `${ground}px` }" />
    <span class="hud scale">{{ scaleWords }}</span>
    <span v-if="badge" class="hud badge">{{ badge }}</span>
    <SwitchCompare
      v-if="looked !== null && stage && drawn === state.model"
      :stage="stage"
      :state="state"
      :at="looked"
      :distance="switches.levels[looked]!"
      @close="emit('look', null)"
    />
    <StageTrouble
      v-if="trouble || !state.model"
      :text="trouble || 'There is no geometry to show.'"
      :retry="trouble !== ''"
      @again="redraw"
    />
    <p v-else-if="drawn !== state.model" class="hud trouble" role="status">Reading the model …</p>
  </div>
</template>

<style scoped src="./stage.css" />
<style scoped>
.words {
  position: absolute;
  display: grid;
  justify-items: center;
  font: 500 11.5px/1.45 var(--mono);
  color: #f4f1e8;
  white-space: nowrap;
  pointer-events: none;
}
.words b {
  font: 600 13px/1.5 var(--narrow);
}
.ground {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 1px solid rgb(244 241 232 / 35%);
  pointer-events: none;
}
.scale {
  right: 8px;
  top: 8px;
}
</style>
