<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import type { StepData } from '@stern-gate/contract'
import type { PickReach } from '@stern-gate/core/picker'
import { formatCount } from '@stern-gate/core/numbers'
import { troubleWords } from '../words/troubleWords'
import { beginPicking, type PickSession } from './pickSession'
import type { StageMark } from './stageMarks'
import type { LentStage } from './stageRoom'
import { useLasso } from './useLasso'
import { useStageKeys } from './useStageKeys'
import { useStagePress } from './useStagePress'

// Triangles are picked on the model, and become a part with a slot of its own
const props = defineProps<{
  stage: LentStage
  /** Address of the model that stands on the stage. */
  drawn: string
  slotName: string
  names: readonly string[]
  keeping: boolean
}>()
const emit = defineEmits<{ keep: [name: string, data: StepData]; end: []; marks: [StageMark[]] }>()
const session = shallowRef<PickSession | null>(null)
const trouble = ref(''),
  count = ref(0),
  name = ref(''),
  kind = ref<PickReach['kind'] | 'lasso'>('bend'),
  through = ref(false),
  degrees = ref(20)
const kinds: readonly [PickReach['kind'] | 'lasso', string, string][] = [
  ['face', 'Face', 'One triangle'],
  ['bend', 'Up to a bend', 'All that goes on without bending by more, from face to face'],
  ['island', 'UV island', 'Up to the seams of the first UV channel'],
  ['shell', 'One piece', 'All that hangs together'],
  ['lasso', 'Lasso', 'All that a line is drawn around'],
]
const joins = computed(() => props.names.includes(name.value.trim()))
const reach = computed<PickReach | null>(() =>
  kind.value === 'lasso'
    ? null
    : kind.value === 'bend'
      ? { kind: 'bend', degrees: degrees.value }
      : { kind: kind.value },
)
function tell(): void {
  count.value = session.value?.count() ?? 0
  emit('marks', session.value?.marks() ?? [])
}
async function take(pick: (on: PickSession) => Promise<void>): Promise<void> {
  try {
    if (session.value) await pick(session.value)
    tell()
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
// Heard first: what is drawn is no press
const line = useLasso(
  () => props.stage,
  () => kind.value === 'lasso' && session.value !== null,
  (outline, takesOut) =>
    take((on) => on.lasso({ ...props.stage.lens(), outline, through: through.value }, takesOut)),
)
useStagePress(
  () => props.stage,
  (at, takesOut) => {
    const { value } = reach
    if (value) return take((on) => on.pick(at, value, takesOut))
  },
)
function undo(): void {
  session.value?.undo()
  tell()
}
function keep(): void {
  if (session.value && name.value.trim() && count.value > 0)
    emit('keep', name.value.trim(), { kind: 'picked', parts: session.value.parts() })
}
async function begin(): Promise<void> {
  session.value?.end()
  session.value = null
  const model = props.stage.model()
  try {
    const begun = model ? await beginPicking(model, props.slotName) : null
    if (isGone || model !== props.stage.model()) return begun?.end()
    session.value = begun
    trouble.value = begun ? '' : 'Nothing that is shown has this slot.'
    tell()
  } catch (error) {
    trouble.value = troubleWords(error)
  }
}
let isGone = false
useStageKeys({ 'Ctrl z': undo, Escape: () => emit('end') })
onMounted(begin)
// What is picked is of the model that stood there
watch(() => props.drawn, begin)
onBeforeUnmount(() => {
  isGone = true
  session.value?.end()
  emit('marks', [])
})
</script>

<template>
  <svg v-if="line.length > 1" class="lasso" aria-hidden="true">
    <polygon :points="line.map((p) => p.join()).join(' ')" />
  </svg>
  <div class="bar" role="toolbar" aria-label="Pick a part" data-pick :data-ready="session ? 'yes' : 'no'">
    <template v-if="session">
      <button
        v-for="[k, word, why] in kinds"
        :key="k"
        :class="{ on: k === kind }"
        :aria-pressed="k === kind"
        :title="why"
        :data-reach="k"
        @click="kind = k"
      >
        {{ word }}
      </button>
      <label v-if="kind === 'bend'">
        <input
          v-model.number="degrees"
          type="range"
          min="1"
          max="120"
          step="1"
          aria-label="Degrees of the bend"
        />
        <span class="mono">{{ degrees }}°</span>
      </label>
      <label v-if="kind === 'lasso'" title="Also what something else hides">
        <input v-model="through" type="checkbox" data-through /> through
      </label>
      <span class="said">{{ formatCount(count) }} triangles · Shift takes out</span>
      <button title="Ctrl Z" data-undo @click="undo">Undo</button>
    </template>
    <span v-else-if="!trouble">Getting ready …</span>
    <span v-if="trouble" role="alert">{{ trouble }}</span>
    <input
      v-model="name"
      class="mono first"
      type="text"
      placeholder="name of its slot"
      aria-label="Name of the part’s slot"
      list="slots-there"
      :title="joins ? 'It joins this slot' : 'A new slot, which begins as a copy'"
      @keydown.enter.stop="keep"
    />
    <datalist id="slots-there">
      <option v-for="n in names" :key="n" :value="n" />
    </datalist>
    <button :disabled="!name.trim() || count === 0 || keeping" data-keep-part @click="keep">
      {{ keeping ? 'Keeping …' : joins ? 'Give it that slot' : 'Make it a part' }}
    </button>
    <button data-end-pick @click="emit('end')">Leave</button>
  </div>
</template>

<style scoped src="./bar.css" />
<style scoped>
.lasso {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  z-index: 1;
}
.lasso polygon {
  fill: #ff3d9a2e;
  stroke: #ff3d9a;
  stroke-width: 1.5;
}
.said {
  opacity: 0.85;
}
input[type='text'] {
  width: 150px;
  padding: 2px 6px;
  border: 1px solid #fff6;
  border-radius: 3px;
  background: #0003;
  color: inherit;
  font-size: 12px;
}
</style>
