<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import type { MemorySaving, ProjectMemory } from '@stern-gate/contract'
import { inputWords } from '@stern-gate/core/surfaces'
import { formatCount, formatShare } from '@stern-gate/core/numbers'
import { applyToMany, getMemory } from '../../api/client'
import { useFaults } from '../../stores/faults'
import { inTurn } from '../../stores/inTurn'
import { useProject } from '../../stores/project'
import { bytesText } from '../../words/formats'
import { layTiles } from './treemap'

// Texture memory of the whole project at a target: against its budget, by asset and role, and what saves most
const project = useProject(),
  faults = useFaults()
const memory = shallowRef<ProjectMemory | null>(null),
  target = ref<string | null>(null),
  busy = ref(''),
  done = ref<ReadonlySet<string>>(new Set())
const AGAIN_MS = 1500

async function read(): Promise<void> {
  const id = project.openId
  if (id === null) return
  try {
    const found = await getMemory(id, target.value)
    if (project.openId === id) memory.value = found
  } catch (error) {
    faults.put(error)
  }
}
const readSoon = inTurn(AGAIN_MS, read)
watch(
  [() => project.openId, target],
  ([id], before) => {
    if (before[0] !== undefined && before[0] !== id) target.value = null
    done.value = new Set()
    void read()
  },
  { immediate: true },
)
onBeforeUnmount(
  project.onEvent((event) => {
    if (event.kind === 'asset' || event.kind === 'rulebook') readSoon()
  }),
)

const targets = computed(() => project.open?.targets ?? [])
const share = computed(() => (memory.value ? memory.value.bytes / memory.value.limit : 0))
const WIDTH = 1180,
  HEIGHT = 210
const tiles = computed(() => {
  const all = memory.value
  if (!all) return []
  const rest =
    all.rest.bytes > 0
      ? [{ asset: '', name: `${all.rest.assets} others`, class: '', bytes: all.rest.bytes }]
      : []
  return layTiles([...all.assets, ...rest], (a) => a.bytes, WIDTH, HEIGHT)
})
const classes = computed(() => [...new Set((memory.value?.assets ?? []).map((a) => a.class))].sort())
const colours = ['#3f7f86', '#8a7d56', '#6d668f', '#8a5f57', '#5d7f5f', '#7a7a76', '#4f6f93', '#93764f']
const colourOf = (name: string): string => colours[classes.value.indexOf(name) % colours.length] ?? '#7a7a76'
const whyWords: Readonly<Record<MemorySaving['why'], string>> = {
  empty: 'carries no more',
  flat: 'is one value all over',
  side: 'is over the largest side',
}
const keyOf = (s: MemorySaving): string => `${s.asset} ${s.texture}`
const open = computed(() => (memory.value?.savings ?? []).filter((s) => !done.value.has(keyOf(s))))
async function save(saving: MemorySaving): Promise<void> {
  if (project.openId === null || busy.value) return
  busy.value = keyOf(saving)
  try {
    const { asset, rule, options, remedy } = saving
    await applyToMany(project.openId, { remedy, steps: [{ asset, rule, options }] })
    done.value = new Set([...done.value, keyOf(saving)])
  } catch (error) {
    faults.put(error)
  } finally {
    busy.value = ''
  }
}
</script>

<template>
  <section v-if="memory" class="memory" aria-label="Texture memory" data-memory>
    <div class="head">
      <h2>Texture memory</h2>
      <select
        class="field"
        :value="target ?? memory.target"
        aria-label="Target"
        @change="target = ($event.target as HTMLSelectElement).value"
      >
        <option v-for="t in targets" :key="t.id" :value="t.id">{{ t.title }}</option>
      </select>
      <span class="mono"
        >{{ bytesText(memory.bytes) }} of {{ bytesText(memory.limit) }}, {{ formatShare(share) }}</span
      >
      <span class="soft">
        {{ formatCount(memory.textures) }} textures<template v-if="memory.shared > 0"
          >; {{ bytesText(memory.shared) }} more if none were shared</template
        >
      </span>
    </div>
    <div class="budget" :class="{ over: share > 1 }">
      <i
        v-for="r in memory.roles"
        :key="r.role ?? ''"
        :style="{ width: `${(r.bytes / Math.max(memory.bytes, memory.limit)) * 100}%` }"
        :title="`${r.role ? inputWords[r.role] : 'role not known'}: ${bytesText(r.bytes)}`"
      />
    </div>
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      role="img"
      aria-label="Assets by the texture memory that they take"
    >
      <component
        :is="t.thing.asset ? 'a' : 'g'"
        v-for="t in tiles"
        :key="t.thing.asset"
        :href="t.thing.asset ? `/p/${project.openId}/assets/${t.thing.asset}/compression` : undefined"
      >
        <title>{{ t.thing.name }}: {{ bytesText(t.thing.bytes) }}</title>
        <rect
          :x="t.x + 0.5"
          :y="t.y + 0.5"
          :width="Math.max(0, t.width - 1)"
          :height="Math.max(0, t.height - 1)"
          :fill="colourOf(t.thing.class)"
        />
        <text v-if="t.width > 74 && t.height > 18" :x="t.x + 5" :y="t.y + 14">
          {{ t.thing.name.slice(0, Math.floor(t.width / 6.4) - 1) }}
        </text>
        <text v-if="t.width > 74 && t.height > 34" :x="t.x + 5" :y="t.y + 28" class="bytes">
          {{ bytesText(t.thing.bytes) }}
        </text>
      </component>
    </svg>
    <p class="soft keys">
      <span v-for="c in classes" :key="c"><i :style="{ background: colourOf(c) }" />{{ c }}</span>
    </p>
    <table v-if="open.length > 0">
      <caption>
        What saves most, each by one step
      </caption>
      <tbody>
        <tr v-for="s in open" :key="keyOf(s)" data-saving>
          <td>
            <RouterLink
              :to="{
                name: 'bench',
                params: { asset: s.asset, station: 'compression' },
                query: { texture: s.texture },
              }"
              >{{ s.texture }}</RouterLink
            >
            <span class="soft">{{ whyWords[s.why] }}</span>
          </td>
          <td class="mono figure">{{ bytesText(s.saves) }}</td>
          <td class="act">
            <button class="btn" :disabled="busy !== ''" @click="save(s)">
              {{ s.remedy === 'colour/shrink' ? 'Shrink' : 'Resize' }} to {{ s.width }} × {{ s.height }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">Nothing is found that one step would save.</p>
  </section>
</template>

<style scoped src="../forms/field.css" />
<style scoped>
td .soft {
  margin-left: 9px;
}
.memory {
  padding-top: 8px;
  padding-bottom: 12px;
  margin-bottom: 14px;
  border-bottom: 1px solid var(--line);
}
.head {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 8px;
}
h2 {
  font: 600 13px/1 var(--text);
  margin: 0;
}
.budget {
  height: 10px;
  display: flex;
  background: var(--wash);
  border: 1px solid var(--line);
  margin-bottom: 8px;
}
.budget i {
  background: var(--tide);
  border-right: 1px solid var(--sheet);
}
.budget.over i {
  background: var(--stop);
}
svg {
  width: 100%;
  max-height: 230px;
  display: block;
}
text {
  font: 500 11px var(--narrow);
  fill: #fbf8f0;
  pointer-events: none;
}
.bytes {
  font: 400 10.5px var(--mono);
}
.keys {
  display: flex;
  gap: 14px;
  margin: 6px 0 8px;
  font-size: 12px;
}
.keys i {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 5px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 12.5px;
}
caption {
  text-align: left;
  font: 600 12px/1.6 var(--narrow);
  color: var(--soft);
}
td {
  border-top: 1px solid var(--hair);
  padding: 3px 8px 3px 0;
}
.figure,
.act {
  text-align: right;
  white-space: nowrap;
}
.btn {
  padding: 2px 9px;
  font-size: 12px;
}
</style>
