<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { RemedyOptions } from '@stern-gate/contract'
import { formatLength } from '@stern-gate/core/numbers'
import { troubleWords } from '../words/troubleWords'
import { beginPoints, type PickedPoint, type PointSession } from './pointSession'
import type { StageMark } from './stageMarks'
import type { LentStage } from './stageRoom'
import { useStageKeys } from './useStageKeys'
import { useStagePress } from './useStagePress'

// Vertices are picked on the model, or on what stands at its origin; the pivot goes to their middle
const props = defineProps<{
  stage: LentStage
  /** Address of the model that stands on the stage. */
  drawn: string
  /** Nodes of the model that are shown, and of what stands at the same origin. */
  shown: readonly string[]
  beside: readonly string[] | null
}>()
const emit = defineEmits<{ keep: [RemedyOptions]; end: []; marks: [StageMark[]] }>()

const axes = ['x', 'y', 'z'] as const
const ways = [
  ['points', 'points'],
  ['stays', 'stays'],
  ['lowest', 'lowest end'],
] as const
type Way = (typeof ways)[number][0]

const session = shallowRef<PointSession | null>(null),
  points = shallowRef<readonly PickedPoint[]>([]),
  chosen = ref<Record<(typeof axes)[number], Way>>({ x: 'points', y: 'points', z: 'points' }),
  trouble = ref('')

/** Where the pivot goes, in metres; null before a point is picked. */
const pivot = computed(() => {
  const { value: picked } = points
  const lowest = session.value?.lowest
  if (picked.length === 0 || !lowest) return null
  return axes.map((axis, i) => {
    if (chosen.value[axis] === 'stays') return 0
    if (chosen.value[axis] === 'lowest') return lowest[i]!
    return picked.reduce((sum, p) => sum + p.at[i]!, 0) / picked.length
  }) as [number, number, number]
})
const marks = computed((): StageMark[] =>
  points.value.length === 0
    ? []
    : [
        {
          kind: 'points',
          places: points.value.flatMap((p) => p.at),
          centre: pivot.value,
          size: session.value?.small ?? 0.1,
        },
      ],
)
watch(marks, (now) => emit('marks', now))

// What was picked already goes when it is pressed again
useStagePress(
  () => props.stage,
  async (line) => {
    try {
      const found = (await session.value?.pick(line)) ?? null
      if (!found) return
      const others = points.value.filter((p) => p.at.some((v, i) => v !== found.at[i]))
      points.value = others.length < points.value.length ? others : [...others, found]
    } catch (error) {
      trouble.value = troubleWords(error)
    }
  },
)
function undo(): void {
  points.value = points.value.slice(0, -1)
}
function keep(): void {
  if (points.value.length === 0) return
  emit('keep', {
    points: points.value.flatMap((p) => p.at),
    beside: points.value.some((p) => p.beside),
    ...chosen.value,
  })
}
let isGone = false
/** Of beginnings that overtake each other the last one counts. */
let begins = 0
async function begin(): Promise<void> {
  session.value?.end()
  session.value = null
  points.value = []
  const turn = ++begins
  const own = props.stage.model(),
    other = props.stage.guestModel()
  if (!own) return
  try {
    const begun = await beginPoints(
      { model: own, shown: props.shown },
      other && props.beside ? { model: other, shown: props.beside } : null,
    )
    if (isGone || turn !== begins || own !== props.stage.model()) return begun?.end()
    session.value = begun
    trouble.value = begun ? '' : 'There is no geometry to pick on.'
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
useStageKeys({ 'Ctrl z': undo, Escape: () => emit('end') })
onMounted(begin)
// What is picked is of what stood there
watch(() => [props.drawn, props.shown.join(), props.beside?.join()], begin)
onBeforeUnmount(() => {
  isGone = true
  session.value?.end()
  emit('marks', [])
})
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Pick the pivot" data-pivot :data-ready="session ? 'yes' : 'no'">
    <span v-if="trouble" role="alert">{{ trouble }}</span>
    <template v-else-if="session">
      <span data-points>{{
        points.length === 0
          ? 'Click vertices of the model' + (beside ? ' or of what stands at its origin' : '')
          : points.length === 1
            ? '1 point'
            : `Middle of ${points.length} points`
      }}</span>
      <button title="Ctrl Z" :disabled="points.length === 0" @click="undo">Undo</button>
      <label v-for="(axis, i) in axes" :key="axis">
        {{ axis.toUpperCase() }}
        <select v-model="chosen[axis]" :aria-label="`Pivot along ${axis.toUpperCase()}`" :data-axis="axis">
          <option v-for="[way, word] in ways" :key="way" :value="way">{{ word }}</option>
        </select>
        <span v-if="pivot" class="mono">{{ formatLength(pivot[i]!) }}</span>
      </label>
    </template>
    <span v-else>Getting ready …</span>
    <button class="first" :disabled="points.length === 0" data-keep-pivot @click="keep">
      Move the pivot there
    </button>
    <button @click="emit('end')">Leave</button>
  </div>
</template>

<style scoped src="./bar.css" />
<style scoped>
select {
  padding: 1px 4px;
  border: 1px solid #fff6;
  border-radius: 3px;
  background: #16262c;
  color: inherit;
  font: inherit;
}
</style>
