<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { ClipFacts } from '@stern-gate/contract'
import { formatLength, formatNumber } from '@stern-gate/core/numbers'
import { isTyping, useWindowKey } from '../keys/useWindowKey'

// The clips of a model: which one, where in it, and what is said of it
const props = defineProps<{
  clips: readonly ClipFacts[]
  chosen: number | null
  bones: boolean
  hasBones: boolean
  locked: boolean
}>()
const emit = defineEmits<{
  choose: [number | null]
  pose: [clip: number | null, seconds: number]
  bones: [boolean]
  rename: [from: string, to: string]
  loop: [clip: string, loop: boolean]
}>()

const seconds = ref(0),
  playing = ref(false),
  name = ref('')
const clip = computed(() => (props.chosen === null ? null : (props.clips[props.chosen] ?? null)))
const length = computed(() => clip.value?.lengthSeconds ?? 0)
const difference = computed(() => {
  const d = clip.value?.difference
  if (!d) return 'nothing moves'
  const parts = [
    d.metres > 1e-6 ? formatLength(d.metres) : '',
    d.degrees > 1e-3 ? formatNumber(d.degrees, 'deg') : '',
    d.scale > 1e-6 ? `scale ${d.scale.toPrecision(2)}` : '',
    d.weight > 1e-6 ? `weight ${d.weight.toPrecision(2)}` : '',
  ].filter(Boolean)
  return parts.length > 0 ? parts.join(' · ') : 'none'
})

let asked = 0,
  last = 0
const stop = (): void => {
  cancelAnimationFrame(asked)
  playing.value = false
}
function step(now: number): void {
  seconds.value += Math.min(0.1, (now - last) / 1000)
  last = now
  // A clip that plays once stands still at its end
  if (seconds.value >= length.value) {
    if (clip.value?.loop === false || length.value <= 0) {
      seconds.value = length.value
      stop()
    } else seconds.value %= length.value
  }
  emit('pose', props.chosen, seconds.value)
  if (playing.value) asked = requestAnimationFrame(step)
}
function play(): void {
  if (!clip.value) emit('choose', 0)
  if (playing.value) return stop()
  if (seconds.value >= length.value) seconds.value = 0
  playing.value = true
  last = performance.now()
  asked = requestAnimationFrame(step)
}
const scrub = (event: Event): void => {
  stop()
  seconds.value = Number((event.target as HTMLInputElement).value)
  emit('pose', props.chosen, seconds.value)
}
watch(
  () => props.chosen,
  (chosen) => {
    seconds.value = 0
    if (chosen === null) stop()
    emit('pose', chosen, 0)
  },
  { immediate: true },
)
// Another name only, and not another object of the same: what is being typed would be lost with each judgement
watch(
  () => clip.value?.name ?? '',
  (now) => {
    name.value = now
  },
  { immediate: true },
)
const rename = (): void => {
  if (clip.value && name.value.trim() && name.value !== clip.value.name)
    emit('rename', clip.value.name, name.value.trim())
}
useWindowKey((event) => {
  if (event.key !== ' ' || isTyping(event) || (event.target as HTMLElement).matches('button, a')) return
  event.preventDefault()
  play()
})
onBeforeUnmount(() => {
  stop()
  emit('pose', null, 0)
})
</script>

<template>
  <section class="clips" aria-label="Clips">
    <div class="line">
      <button class="btn" :aria-pressed="playing" @click="play">
        {{ playing ? 'Pause' : 'Play' }} <kbd>Space</kbd>
      </button>
      <select
        class="field"
        aria-label="Clip"
        :value="chosen ?? ''"
        @change="
          emit(
            'choose',
            ($event.target as HTMLSelectElement).value === ''
              ? null
              : Number(($event.target as HTMLSelectElement).value),
          )
        "
      >
        <option value="">at rest</option>
        <option v-for="(c, i) in clips" :key="i" :value="i">{{ c.name || `clip ${i + 1}` }}</option>
      </select>
      <input
        class="time"
        type="range"
        min="0"
        :max="length"
        step="any"
        :value="seconds"
        :disabled="!clip"
        aria-label="Time in the clip"
        @input="scrub"
      />
      <span class="mono at"
        >{{ seconds.toFixed(2) }}<small class="unit"> / {{ length.toFixed(2) }} s</small></span
      >
      <button
        v-if="hasBones"
        class="btn"
        :class="{ on: bones }"
        :aria-pressed="bones"
        @click="emit('bones', !bones)"
      >
        Bones
      </button>
    </div>
    <div v-if="clip" class="line said">
      <label class="soft"
        >Name
        <input
          v-model="name"
          class="field name"
          :disabled="locked"
          aria-label="Name of the clip"
          @keydown.enter="($event.target as HTMLInputElement).blur()"
          @blur="rename"
      /></label>
      <label class="soft"
        ><input
          type="checkbox"
          :checked="clip.loop === true"
          :disabled="locked"
          @change="emit('loop', clip.name, ($event.target as HTMLInputElement).checked)"
        />
        loops<template v-if="clip.loop === null">, not said</template></label
      >
      <span class="soft"
        >Nodes moved <b class="mono">{{ clip.moved }}</b></span
      >
      <span class="soft"
        >First to last pose <b class="mono">{{ difference }}</b></span
      >
    </div>
  </section>
</template>

<style scoped>
.clips {
  border-top: 1px solid var(--line);
  background: var(--sheet);
  padding: 8px 12px;
  display: grid;
  gap: 7px;
}
.line {
  display: flex;
  gap: 10px;
  align-items: center;
  min-width: 0;
  flex-wrap: wrap;
}
.time {
  flex: 1;
  min-width: 80px;
  accent-color: var(--tide);
}
.at {
  min-width: 84px;
  text-align: right;
}
.field {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--paper);
  padding: 4px 7px;
  font: 400 12.5px/1.3 var(--text);
  max-width: 200px;
}
.name {
  width: 190px;
  font-family: var(--mono);
  font-size: 12px;
}
.said {
  font: 500 12px/1.3 var(--narrow);
  gap: 16px;
}
b {
  color: var(--ink);
  font-weight: 500;
}
</style>
