<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import {
  encodedFormats,
  encodingQualities,
  type BenchTexture,
  type RemedyOptions,
} from '@stern-gate/contract'
import { textureMemory } from '@stern-gate/core/memory'
import { formatNumber, formatShare } from '@stern-gate/core/numbers'
import { bytesText, decibelText } from '../../words/formats'
import SmallerLevels from './SmallerLevels.vue'
import SmallestFormat from './SmallestFormat.vue'
import type { Encodings } from './useEncodings'

// The texture on the desk in every format: what it costs, what it loses, how long it takes
const props = defineProps<{ texture: BenchTexture | null; encodings: Encodings; locked: boolean }>()
const emit = defineEmits<{ step: [remedy: string, options: RemedyOptions] }>()
const { quality, container, chosen, working, byFormat, shown } = props.encodings
const isVectors = computed(() => props.texture?.role === 'normal')
const now = ref(Date.now())
let clock: ReturnType<typeof setInterval> | null = null
watch(working, (on) => {
  if (clock !== null) clearInterval(clock)
  clock = on ? setInterval(() => (now.value = Date.now()), 200) : null
  now.value = Date.now()
})
onBeforeUnmount(() => {
  if (clock !== null) clearInterval(clock)
  props.encodings.cancel()
})
const elapsed = computed(() =>
  working.value ? Math.max(0, (now.value - working.value.since) / 1000).toFixed(1) : '',
)
const secondsText = (s: number): string =>
  s < 0.1 ? '< 0.1 s' : `${s < 10 ? s.toFixed(1) : Math.round(s)} s`
const rows = computed(() =>
  encodedFormats.map((format) => {
    const done = byFormat.value.get(format)
    return {
      format,
      memory: props.texture?.facts ? bytesText(textureMemory(props.texture.facts.header, format)) : '',
      error: !done
        ? ''
        : isVectors.value && done.facts.angle
          ? `${formatNumber(done.facts.angle.mean, 'x')}°`
          : decibelText(done.facts.psnrAll),
      seconds: done ? secondsText(done.facts.seconds) : '',
      targets: props.encodings.targetsOf(format),
      impossible: container.value === 'dds' && !format.startsWith('BC'),
    }
  }),
)
const details = computed(() => {
  const facts = shown.value?.facts
  if (!facts) return []
  return [
    ['File', `${bytesText(facts.fileBytes)}, ${facts.levels} ${facts.levels === 1 ? 'level' : 'levels'}`],
    ['In memory', bytesText(facts.memoryBytes)],
    ...(facts.used === null ? [] : [['Compared, by islands', formatShare(facts.used)]]),
    ...facts.compared.map((c, i) => [`Channel ${c}`, decibelText(facts.psnr[i]!)]),
    ['Structure (SSIM)', facts.ssim.toFixed(4)],
    ...(facts.angle
      ? [
          ['Angle, mean', `${facts.angle.mean.toFixed(2)}°`],
          ['Angle, 95 %', `${facts.angle.p95.toFixed(2)}°`],
          ['Angle, most', `${facts.angle.most.toFixed(1)}°`],
        ]
      : []),
    ...(facts.coverage
      ? [
          [
            'Drawn of the cutout',
            `${formatShare(facts.coverage.encoded)} of ${formatShare(facts.coverage.source)}`,
          ],
        ]
      : []),
  ]
})
</script>

<template>
  <aside class="formats" aria-label="Formats" tabindex="0">
    <template v-if="texture?.facts">
      <div class="settings">
        <select v-model="quality" class="field" aria-label="Effort" data-quality>
          <option v-for="q in encodingQualities" :key="q" :value="q">{{ q }}</option>
        </select>
        <select v-model="container" class="field" aria-label="Container" data-container>
          <option value="ktx2">KTX2</option>
          <option value="dds">DDS</option>
        </select>
        <button v-if="!working" class="btn" data-encode-all @click="encodings.encodeAll">Encode all</button>
        <button v-else class="btn" data-cancel @click="encodings.cancel">Cancel</button>
      </div>
      <table>
        <thead>
          <tr>
            <th>Format</th>
            <th class="figure">Memory</th>
            <th class="figure">{{ isVectors ? 'Off by' : 'Error' }}</th>
            <th class="figure">Time</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="r in rows"
            :key="r.format"
            :class="{ on: r.format === chosen, none: r.impossible }"
            :data-format="r.format"
          >
            <td>
              <button
                :disabled="r.impossible"
                :aria-pressed="r.format === chosen"
                :title="r.impossible ? 'DDS has no number for it' : 'Encode it and show it beside the source'"
                @click="encodings.show(r.format)"
              >
                {{ r.format }}
              </button>
              <small v-if="r.targets.length > 0" class="soft">{{ r.targets.join(', ') }}</small>
            </td>
            <td class="figure">{{ r.memory }}</td>
            <td class="figure">{{ r.error }}</td>
            <td class="figure">{{ working?.format === r.format ? `${elapsed} s …` : r.seconds }}</td>
          </tr>
        </tbody>
      </table>
      <dl v-if="shown" data-details>
        <div v-for="[name, value] in details" :key="name">
          <dt>{{ name }}</dt>
          <dd class="mono">{{ value }}</dd>
        </div>
        <SmallerLevels :facts="shown.facts" />
        <a
          class="btn"
          :href="shown.file"
          :download="`${texture.name.replace(/\.[^.]*$/, '')}.${shown.facts.plan.container}`"
          >Take the file</a
        >
      </dl>
      <p v-else class="soft">
        A click encodes the texture and lays it beside its source; the error is measured on what is read back
        from the written file.
      </p>
      <SmallestFormat
        :texture="texture"
        :target="encodings.targetFormat.value"
        :locked="locked"
        @show="encodings.show"
        @step="(remedy, options) => emit('step', remedy, options)"
      />
    </template>
    <p v-else class="soft">There is no texture to encode.</p>
  </aside>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.formats {
  padding: 10px 12px;
  overflow: auto;
  min-width: 0;
  border-left: 1px solid var(--line);
}
.settings {
  display: flex;
  gap: 6px;
  margin-bottom: 8px;
}
.btn {
  padding: 2px 8px;
  font-size: 12px;
}
.settings .btn {
  margin-left: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  font: 500 12px/1.3 var(--narrow);
}
th {
  text-align: left;
  color: var(--soft);
  font-weight: 600;
  padding: 3px 4px 3px 0;
}
td {
  padding: 2px 4px 2px 0;
  border-top: 1px solid var(--hair);
  vertical-align: top;
}
td button {
  border: 0;
  background: none;
  padding: 1px 0;
  font: 400 12px/1.3 var(--mono);
  cursor: pointer;
  color: var(--tide);
}
td button:disabled {
  color: var(--soft);
  cursor: default;
}
td small {
  display: block;
  font-size: 11px;
  line-height: 1.2;
}
.figure {
  text-align: right;
  font-family: var(--mono);
  font-weight: 400;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
th.figure {
  font-family: var(--narrow);
  font-weight: 600;
}
.on td {
  background: var(--wash);
}
.none td {
  opacity: 0.55;
}
dl {
  margin: 12px 0 0;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
dl div {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
dt {
  color: var(--soft);
  font: 500 12.5px/1.5 var(--narrow);
}
dd {
  margin: 0;
  font-size: 12px;
}
dl .btn {
  display: inline-block;
  margin-top: 8px;
}
</style>
