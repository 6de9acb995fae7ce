<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { formatLength, formatShare } from '@stern-gate/core/numbers'
import { troubleWords } from '../words/troubleWords'
import { asking } from './askWorker'
import type { ClearanceAnswer, ClearanceScene } from './clearanceWorker'
import { trianglesOf } from './dropScene'
import type { StageModel } from './loadModel'
import { distanceColours } from './distanceColours'
import type { StageMark } from './stageMarks'
import type { LentStage } from './stageRoom'

// How near an asset comes to the one that stands at the same origin, and how deep it goes in
const props = defineProps<{
  stage: LentStage
  shown: readonly string[]
  guest: { model: string; shown: readonly string[] }
}>()
const emit = defineEmits<{ marks: [StageMark[]] }>()
const found = shallowRef<ClearanceAnswer>(null)
const isMapped = ref(true)
/** Distances that the map tells apart, as a share of the longest that was measured. */
const FAR_SHARE = 0.5
const trouble = ref(''),
  busy = ref(false)
let worker: Worker | null = null

function clear(): void {
  worker?.terminate()
  worker = null
  found.value = null
  emit('marks', [])
  trouble.value = ''
  busy.value = false
}
const shownOf = (model: StageModel, shown: readonly string[]): StageModel['meshes'] =>
  model.meshes.filter((m) => shown.includes(m.path))
const partsOf = (model: StageModel, shown: readonly string[]): ClearanceScene['own'] =>
  shownOf(model, shown).map((m) => trianglesOf(m.mesh))

/** From here on distances are no longer told apart, in metres. */
const far = computed(() => {
  let most = 0
  for (const d of found.value?.map ?? []) if (d > most) most = d
  return Math.max(most * FAR_SHARE, 1e-4)
})
/** The map as marks, one for each mesh: distances stand in the order of the meshes. */
function showMap(): void {
  const model = props.stage.model(),
    map = found.value?.map
  if (!model || !map || !isMapped.value) return emit('marks', [])
  let at = 0
  emit(
    'marks',
    shownOf(model, props.shown).map(({ path, primitive, mesh }): StageMark => {
      const distances = map.subarray(at, (at += mesh.geometry.getAttribute('position').count))
      return { kind: 'distances', node: path, primitive, distances, far: far.value }
    }),
  )
}
watch([found, isMapped], showMap)

async function measure(): Promise<void> {
  clear()
  const own = props.stage.model(),
    host = props.stage.guestModel()
  if (!own || !host) return
  busy.value = true
  const mine = (worker = new Worker(new URL('./clearanceWorker.ts', import.meta.url), { type: 'module' }))
  try {
    const ask = asking<ClearanceScene, ClearanceAnswer>(mine)
    const answer = await ask({ own: partsOf(own, props.shown), host: partsOf(host, props.guest.shown) })
    if (worker !== mine) return
    found.value = answer
    if (!answer) trouble.value = 'One of them has no surface.'
  } catch (error) {
    if (worker === mine) trouble.value = troubleWords(error)
  } finally {
    mine.terminate()
    if (worker === mine) busy.value = false
  }
}
watch(() => [props.guest.model, props.shown.join()], clear)
onBeforeUnmount(clear)
</script>

<template>
  <div class="foot" data-clearance-bar>
    <button class="btn" :disabled="busy" data-measure-clearance @click="measure">
      {{ busy ? 'Measuring …' : found ? 'Measure again' : 'Measure the clearance' }}
    </button>
    <p v-if="trouble" role="alert">{{ trouble }}</p>
    <p v-else-if="found" role="status" data-clearance>
      <template v-if="found.inside > 0"
        >goes in by <b>{{ formatLength(found.deepest) }}</b>, {{ formatShare(found.inside) }} of its
        vertices</template
      ><template v-else-if="found.least === 0">touches or crosses it, no vertex lies inside</template
      ><template v-else
        ><b>{{ formatLength(found.least) }}</b> apart</template
      >
    </p>
    <template v-if="found?.map">
      <label title="Distance of each place to the other asset">
        <input v-model="isMapped" type="checkbox" data-clearance-map /> Map
      </label>
      <span v-if="isMapped" class="legend" data-legend>
        <template v-if="found.inside > 0"
          ><i :style="{ background: distanceColours.inside }"></i>inside</template
        >
        <i
          class="run"
          :style="{
            background: `linear-gradient(90deg, ${distanceColours.near}, ${distanceColours.far})`,
          }"
        ></i
        >0 to {{ formatLength(far) }}
      </span>
    </template>
    <span v-else-if="found">Too many vertices for a map.</span>
  </div>
</template>

<style scoped src="./foot.css" />
<style scoped>
.foot {
  max-width: calc(100% - 16px);
  white-space: nowrap;
}
label,
.legend {
  display: flex;
  align-items: center;
  gap: 6px;
}
.legend i {
  width: 12px;
  height: 12px;
  border-radius: 2px;
}
.legend i.run {
  width: 54px;
}
</style>
