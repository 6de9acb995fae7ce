<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { NVirtualList } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import type { Fault } from '@stern-gate/contract'
import { CallFailed, placementsAddress, sceneModelAddress } from '../api/client'
import PartLine from '../components/scene/PartLine.vue'
import ModelView from '../components/frame/ModelView.vue'
import WayBar from '../components/scene/WayBar.vue'
import { isTyping, useWindowKey } from '../keys/useWindowKey'
import { useFaults } from '../stores/faults'
import { useProject } from '../stores/project'
import { useScene } from '../stores/scene'
import { sceneChangeWords } from '../words/sceneChanges'

// One file, many objects: what becomes an asset of its own, what belongs together, what is left out
const LINE = 49
const route = useRoute()
const router = useRouter()
const project = useProject()
const scene = useScene()
const faults = useFaults()
const list = useTemplateRef<InstanceType<typeof NVirtualList>>('list')
const taken = ref<Fault | null>(null)
const id = computed(() => String(route.params['scene']))
watch(
  id,
  (now) => {
    if (route.name === 'scene') void scene.load(now)
  },
  { immediate: true },
)
watch(
  () => scene.detail?.name,
  (name) => (document.title = `${name ?? 'Scene'} · Stern Gate`),
)
onBeforeUnmount(scene.leave)

const kept = computed(() => scene.parts.filter((p) => p.left === null))
const out = computed(() => scene.parts.length - kept.value.length)
const places = computed(() => kept.value.reduce((sum, p) => sum + p.copies.length + 1, 0))
const isApart = computed(() => (scene.detail?.parts.length ?? 0) > 0)
const model = computed(() => (scene.detail ? sceneModelAddress(scene.detail.id, scene.detail.path) : ''))
const shown = computed(() =>
  (scene.detail?.nodes ?? []).filter((n) => n.primitives.length > 0).map((n) => n.path),
)
const marked = computed(() =>
  scene.meant
    .flatMap((p) => [...p.nodes, ...p.copies.flatMap((c) => c.nodes)])
    .slice(0, 400)
    .map((node) => ({ kind: 'node' as const, node })),
)
const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`
const leftOut = computed(() => (out.value > 0 ? `; ${out.value} left out` : ''))
const does = computed(() =>
  scene.plan.way === 'whole'
    ? 'The file is one asset.'
    : `${count(kept.value.length, 'asset')}, ${count(places.value, 'placement')}${leftOut.value}.`,
)
/** What goes when it is done: nobody shall be surprised by it. */
const goes = computed(() =>
  scene.plan.way === 'whole'
    ? isApart.value
      ? 'Its parts go, with their steps.'
      : ''
    : isApart.value
      ? 'Parts that are no more go, with their steps.'
      : scene.detail?.whole
        ? 'As one asset it goes.'
        : '',
)
const changes = computed(() => sceneChangeWords(scene.detail?.changes ?? null))
async function send(meets = false): Promise<void> {
  taken.value = null
  try {
    await scene.send(meets)
    await router.push({ name: 'arrivals', params: { project: project.openId } })
  } catch (error) {
    if (error instanceof CallFailed && error.fault.where.part === 'names') taken.value = error.fault
    else faults.put(error)
  }
}
function focusOn(key: string): void {
  scene.focused = key
  void nextTick(() => list.value?.scrollTo({ key }))
}
function pick(node: string): void {
  const part = scene.parts.find((p) => p.nodes.includes(node) || p.copies.some((c) => c.nodes.includes(node)))
  if (part) focusOn(part.key)
}
function step(by: number): void {
  const at = scene.parts.findIndex((p) => p.key === scene.focused)
  const next = scene.parts[Math.min(scene.parts.length - 1, Math.max(0, at + by))]
  if (next) focusOn(next.key)
}
const keys: Record<string, () => void> = {
  ArrowDown: () => step(1),
  ArrowUp: () => step(-1),
  x: () => scene.focused !== null && scene.toggle(scene.focused),
  j: scene.join,
  s: scene.split,
  o: scene.leaveOut,
  Enter: () => void send(),
}
useWindowKey((event) => {
  if (isTyping(event)) return
  if (event.key === 'z' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault()
    scene.undo()
    return
  }
  const act = event.ctrlKey || event.metaKey || event.altKey ? undefined : keys[event.key]
  // Enter on a button is that button's
  if (!act || (event.key === 'Enter' && (event.target as HTMLElement).closest('button, a, select, input')))
    return
  event.preventDefault()
  act()
})
</script>

<template>
  <div class="scene">
    <header>
      <h1 class="mono">{{ scene.detail?.name ?? '…' }}</h1>
      <span v-if="scene.detail" class="soft">
        one file, {{ count(shown.length, 'mesh', 'meshes')
        }}<template v-if="isApart">; it is taken apart, and later exports of it the same way</template>
      </span>
      <span class="gap" />
      <a v-if="isApart" class="btn" :href="placementsAddress(id)" data-placements>Placements, glTF</a>
    </header>
    <p v-if="scene.detail?.fault" class="told stop" role="alert">
      It was kept whole: {{ scene.detail.fault.why }} {{ scene.detail.fault.hint }}
    </p>
    <p v-if="changes.length" class="told" data-changes>The last export: {{ changes.join('; ') }}.</p>
    <WayBar v-if="scene.detail" />
    <div class="body">
      <section class="left" aria-label="Parts">
        <div class="acts" role="toolbar" aria-label="Parts">
          <button class="btn" :disabled="scene.meant.length < 2" data-join title="J" @click="scene.join">
            Join
          </button>
          <button
            class="btn"
            :disabled="!scene.meant.some((p) => p.nodes.length > 1)"
            data-split
            title="S"
            @click="scene.split"
          >
            Split further
          </button>
          <button class="btn" :disabled="scene.meant.length === 0" data-out title="O" @click="scene.leaveOut">
            {{ scene.meant.length > 0 && scene.meant.every((p) => p.left !== null) ? 'Keep' : 'Leave out' }}
          </button>
          <button class="btn" :disabled="scene.past.length === 0" title="Ctrl Z" @click="scene.undo">
            Undo
          </button>
          <span class="soft">{{ scene.chosen.size > 0 ? `${scene.chosen.size} chosen` : '' }}</span>
        </div>
        <NVirtualList ref="list" class="list" :items="[...scene.parts]" :item-size="LINE" key-field="key">
          <template #default="{ item }">
            <PartLine
              :key="item.key"
              :part="item"
              :chosen="scene.chosen.has(item.key)"
              :focused="scene.focused === item.key"
              @toggle="scene.toggle(item.key)"
              @focus="scene.focused = item.key"
            />
          </template>
        </NVirtualList>
        <footer>
          <div v-if="taken" class="told" role="alert" data-taken>
            {{ taken.why }}
            <button class="btn" @click="send(true)">Make them new versions</button>
          </div>
          <div class="end">
            <span
              >{{ does }} <span class="soft">{{ goes }}</span></span
            >
            <button class="btn go" data-apart :disabled="scene.busy || !scene.detail" @click="send()">
              {{ scene.plan.way === 'whole' ? 'Keep as one' : isApart ? 'Take apart anew' : 'Take apart' }}
            </button>
          </div>
        </footer>
      </section>
      <ModelView
        v-if="scene.detail"
        class="right"
        :model="model"
        :shown="shown"
        :marks="marked"
        label="The scene as it arrived"
        @pick="pick"
      />
    </div>
  </div>
</template>

<style scoped src="./viewHead.css"></style>
<style scoped>
.scene {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
h1 {
  font: 600 15px/1 var(--mono);
}
.told {
  padding: 7px 18px;
  background: var(--wash);
  border-bottom: 1px solid var(--line);
}
.told.stop {
  color: var(--stop);
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(430px, 45%) 1fr;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--line);
}
.acts {
  display: flex;
  gap: 5px;
  align-items: center;
  padding: 7px 12px 7px 18px;
  border-bottom: 1px solid var(--hair);
}
.list {
  flex: 1;
  min-height: 0;
}
footer {
  border-top: 1px solid var(--line);
}
footer .told {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
}
.end {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding: 8px 12px 8px 18px;
}
.right {
  min-height: 0;
  min-width: 0;
  margin: 10px;
}
</style>
