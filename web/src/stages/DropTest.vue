<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import type { AssetState } from '@stern-gate/contract'
import { formatLength } from '@stern-gate/core/numbers'
import { troubleWords } from '../words/troubleWords'
import { meaningOf, type DropResult } from './dropBalls'
import { dropInWorker } from './dropInWorker'
import { dropSceneOf } from './dropScene'
import type { LentStage } from './stageRoom'

// Balls dropped onto the collision: where they rest, and how far that is from what is seen
const props = defineProps<{ stage: LentStage; state: AssetState }>()
const colours = { fits: '#4c9a6a', floats: '#ff3d9a', sunk: '#d98a1f', ground: '#8b8b83' } as const
const result = shallowRef<DropResult | null>(null)
const trouble = ref(''),
  busy = ref(false),
  falling = ref(false)
let going: AbortController | null = null,
  asked = 0

const counts = computed(() => {
  const found = { fits: 0, floats: 0, sunk: 0, ground: 0 }
  for (const ball of result.value?.balls ?? []) found[meaningOf(ball, result.value!.radius)]++
  return found
})
const furthest = computed(() =>
  Math.max(0, ...(result.value?.balls ?? []).filter((b) => b.where === 'rests').map((b) => b.gap)),
)
function clear(): void {
  going?.abort()
  going = null
  cancelAnimationFrame(asked)
  result.value = null
  falling.value = false
  busy.value = false
  props.stage.balls(null)
}
async function drop(): Promise<void> {
  clear()
  const model = props.stage.model(),
    scene = model && dropSceneOf(model, props.state)
  if (!scene) return
  trouble.value = ''
  busy.value = true
  const own = (going = new AbortController())
  try {
    const dropped = await dropInWorker(scene, own.signal)
    if (own.signal.aborted) return
    result.value = dropped
    play(dropped)
  } catch (error) {
    if (!own.signal.aborted) trouble.value = troubleWords(error)
  } finally {
    if (going === own) busy.value = false
  }
}
function play(dropped: DropResult): void {
  const began = performance.now()
  falling.value = true
  const next = (): void => {
    const n = Math.floor((performance.now() - began) / 1000 / dropped.step)
    const last = n >= dropped.frames.length - 1
    props.stage.balls({
      places: dropped.frames[last ? dropped.frames.length - 1 : n]!,
      radius: dropped.radius,
      colours: last ? dropped.balls.map((b) => colours[meaningOf(b, dropped.radius)]) : null,
    })
    if (last) falling.value = false
    else asked = requestAnimationFrame(next)
  }
  next()
}
watch(() => props.state.model, clear)
onBeforeUnmount(clear)
</script>

<template>
  <div class="foot">
    <button class="btn" :disabled="busy || falling || state.collision.length === 0" data-drop @click="drop">
      {{ busy ? 'Dropping …' : 'Drop balls' }}
    </button>
    <button v-if="result && !falling" class="btn" @click="clear">Clear</button>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <ul v-else-if="result && !falling" data-dropped>
      <li><i :style="{ background: colours.fits }" />{{ counts.fits }} rest on what is seen</li>
      <li>
        <i :style="{ background: colours.floats }" />{{ counts.floats }} float<template
          v-if="counts.floats > 0"
          >, up to {{ formatLength(furthest) }}</template
        >
      </li>
      <li><i :style="{ background: colours.sunk }" />{{ counts.sunk }} sunk in</li>
      <li><i :style="{ background: colours.ground }" />{{ counts.ground }} on the ground</li>
    </ul>
    <p v-else-if="state.collision.length === 0">There is no collision to drop balls on.</p>
  </div>
</template>

<style scoped src="./foot.css" />
<style scoped>
ul {
  display: flex;
  gap: 12px;
  list-style: none;
  margin: 0;
  padding: 0;
  flex-wrap: wrap;
}
i {
  display: inline-block;
  width: 9px;
  height: 9px;
  border-radius: 50%;
  margin-right: 5px;
}
</style>
