<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import {
  encodedFormats,
  formatKinds,
  kindOfFormat,
  type BenchTexture,
  type EncodedFormat,
  type FormatSearch,
  type RemedyOptions,
} from '@stern-gate/contract'
import { searchFormats } from '../../api/client'
import { useBench } from '../../stores/bench'
import { useFaults } from '../../stores/faults'
import { bytesText } from '../../words/formats'

// The smallest format and size that holds a wanted error, among the formats of one kind of device
const props = defineProps<{ texture: BenchTexture; target: EncodedFormat | null; locked: boolean }>()
const emit = defineEmits<{
  show: [EncodedFormat]
  step: [remedy: string, options: RemedyOptions]
}>()
const bench = useBench(),
  faults = useFaults()
const kind = ref<string>(kindOfFormat(props.target).title)
watch(
  () => props.target,
  (target) => (kind.value = kindOfFormat(target).title),
)
const isVectors = computed(() => props.texture.role === 'normal')
const wanted = ref({ dB: 40, degrees: 2 })
const found = shallowRef<FormatSearch | null>(null),
  busy = ref(false)
let stop: AbortController | null = null
function leave(): void {
  stop?.abort()
  stop = null
  busy.value = false
}
watch(
  () => props.texture.sha256,
  () => {
    leave()
    found.value = null
  },
)
onBeforeUnmount(leave)
async function search(): Promise<void> {
  const asset = bench.detail?.id
  if (!asset) return
  leave()
  const mine = (stop = new AbortController())
  busy.value = true
  try {
    const formats = encodedFormats.filter((f) => formatKinds.find((k) => k.title === kind.value)!.has(f))
    const done = await searchFormats(
      asset,
      {
        texture: props.texture.name,
        wish: {
          formats,
          role: props.texture.role,
          least: wanted.value.dB,
          degrees: wanted.value.degrees,
        },
      },
      mine.signal,
    )
    if (!mine.signal.aborted) found.value = done
  } catch (error) {
    if (!mine.signal.aborted) faults.put(error)
  } finally {
    if (stop === mine) leave()
  }
}
const text = (error: number | null): string =>
  error === null
    ? 'exact'
    : found.value?.unit === 'degrees'
      ? `${error.toFixed(2)}°`
      : `${error.toFixed(1)} dB`
const sizeText = (times: number): string => (times === 1 ? 'full' : `1/${times}`)

/** Places of the tries in the picture of bytes against error. */
const WIDTH = 250,
  HEIGHT = 110,
  PAD = 8
const places = computed(() => {
  const all = found.value?.tried ?? []
  const errors = all.map((t) => t.error ?? 60),
    bytes = all.map((t) => Math.log(t.memoryBytes))
  const [e0, e1, b0, b1] = [Math.min(...errors), Math.max(...errors), Math.min(...bytes), Math.max(...bytes)]
  const fewerIsBetter = found.value?.unit === 'degrees'
  return all.map((t, i) => {
    const share = (errors[i]! - e0) / (e1 - e0 || 1)
    return {
      ...t,
      x: PAD + ((bytes[i]! - b0) / (b1 - b0 || 1)) * (WIDTH - 2 * PAD),
      y: PAD + (fewerIsBetter ? share : 1 - share) * (HEIGHT - 2 * PAD),
      isBest: t.format === found.value?.best?.format && t.times === found.value.best.times,
    }
  })
})
function resize(): void {
  const best = found.value?.best
  if (best)
    emit('step', 'compression/resize', {
      texture: props.texture.name,
      width: best.width,
      height: best.height,
    })
}
</script>

<template>
  <section class="smallest" data-smallest>
    <h3>Smallest that holds</h3>
    <div class="settings">
      <select v-model="kind" class="field" aria-label="Kind of formats">
        <option v-for="k in formatKinds" :key="k.title">{{ k.title }}</option>
      </select>
      <label v-if="isVectors"
        ><input
          v-model.number="wanted.degrees"
          class="field mono"
          type="number"
          min="0.05"
          max="45"
          step="0.5"
          aria-label="Degrees at most"
        />
        ° mean</label
      >
      <label v-else
        ><input
          v-model.number="wanted.dB"
          class="field mono"
          type="number"
          min="0"
          max="120"
          step="1"
          aria-label="dB at least"
        />
        dB</label
      >
      <button v-if="!busy" class="btn" data-search @click="search">Search</button>
      <button v-else class="btn" @click="leave">Cancel</button>
    </div>
    <p v-if="busy" class="soft" role="status">Trying formats and sizes on windows of it …</p>
    <template v-else-if="found">
      <p v-if="found.best" data-best>
        <b>{{ found.best.format }}</b> at {{ found.best.width }} × {{ found.best.height }}:
        {{ bytesText(found.best.memoryBytes) }}, {{ text(found.best.error) }} over all of it.
        <button class="btn" @click="emit('show', found.best.format)" v-if="found.best.times === 1">
          Show it
        </button>
        <button v-else class="btn" :disabled="locked" @click="resize">
          Resize to {{ found.best.width }} × {{ found.best.height }}
        </button>
      </p>
      <p v-else>None of these holds what is wanted.</p>
      <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="Bytes to the right, the better upward">
        <line :x1="PAD" :x2="WIDTH - PAD" :y1="HEIGHT - 2" :y2="HEIGHT - 2" class="axis" />
        <line :x1="2" :x2="2" :y1="PAD" :y2="HEIGHT - PAD" class="axis" />
        <circle
          v-for="p in places"
          :key="`${p.format}${p.times}`"
          :cx="p.x"
          :cy="p.y"
          :r="p.isBest ? 5 : 3.2"
          :class="{ holds: p.holds, best: p.isBest }"
        >
          <title>
            {{ p.format }} {{ sizeText(p.times) }}: {{ bytesText(p.memoryBytes) }}, {{ text(p.error) }}
          </title>
        </circle>
      </svg>
      <table>
        <tbody>
          <tr v-for="t in found.tried" :key="`${t.format}${t.times}`" :class="{ not: !t.holds }">
            <td>{{ t.format }}</td>
            <td>{{ sizeText(t.times) }}</td>
            <td class="figure">{{ bytesText(t.memoryBytes) }}</td>
            <td class="figure">{{ text(t.error) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.smallest {
  margin-top: 14px;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
h3 {
  font: 600 12.5px/1.4 var(--narrow);
  margin: 0 0 5px;
}
.settings {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 12px;
}
label {
  white-space: nowrap;
}
.settings .btn {
  margin-left: auto;
}
input.field {
  width: 56px;
}
.btn {
  padding: 2px 8px;
  font-size: 12px;
}
p {
  margin: 7px 0;
  font-size: 12.5px;
  line-height: 1.5;
}
svg {
  width: 100%;
  display: block;
}
.axis {
  stroke: var(--line);
}
circle {
  fill: var(--soft);
}
circle.holds {
  fill: var(--clear);
}
circle.best {
  stroke: var(--ink);
  stroke-width: 1.5;
}
table {
  width: 100%;
  border-collapse: collapse;
  font: 400 12px/1.5 var(--mono);
}
td {
  border-top: 1px solid var(--hair);
}
.figure {
  text-align: right;
}
.not {
  opacity: 0.55;
}
</style>
