<script setup lang="ts">
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { formatLength, formatShare } from '@stern-gate/core/numbers'
import { troubleWords } from '../words/troubleWords'
import { asking } from './askWorker'
import type { ClearanceAnswer, ClearanceScene } from './clearanceWorker'
import { trianglesOf } from './dropScene'
import type { StageModel } from './loadModel'
import type { LentStage } from './stageRoom'

// How near an asset comes to the one that stands at the same origin, and how deep it goes in
const props = defineProps<{
  stage: LentStage
  shown: readonly string[]
  guest: { model: string; shown: readonly string[] }
}>()
const found = shallowRef<ClearanceAnswer>(null)
const trouble = ref(''),
  busy = ref(false)
let worker: Worker | null = null

function clear(): void {
  worker?.terminate()
  worker = null
  found.value = null
  trouble.value = ''
  busy.value = false
}
const partsOf = (model: StageModel, shown: readonly string[]): ClearanceScene['own'] =>
  model.meshes.filter((m) => shown.includes(m.path)).map((m) => trianglesOf(m.mesh))

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
      {{ busy ? 'Measuring …' : 'Measure the clearance' }}
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
  </div>
</template>

<style scoped src="./foot.css" />
