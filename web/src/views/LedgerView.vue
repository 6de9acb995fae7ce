<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import type { ProjectWaiver } from '@stern-gate/contract'
import MemoryPanel from '../components/ledger/MemoryPanel.vue'
import LevelShape from '../marks/LevelShape.vue'
import { useProject } from '../stores/project'
import { useWaivers } from '../stores/waivers'

// What was accepted: what ends soon first, and what has fallen with why
const project = useProject()
const waivers = useWaivers()
const stop = project.onEvent(waivers.hear)
onBeforeUnmount(stop)
watch(
  () => project.openId,
  () => void waivers.read(),
  { immediate: true },
)
onMounted(() => {
  document.title = 'Ledger · Stern Gate'
})
const states: Record<ProjectWaiver['state'], string> = {
  holds: 'holds',
  ended: 'fallen: its day is past',
  worse: 'fallen: the value got worse',
  unused: 'nothing speaks of it now',
}
const today = new Date().toISOString().slice(0, 10)
const untilText = ({ waiver: { until } }: ProjectWaiver): string => {
  if (until === null) return 'without end'
  const days = Math.round((Date.parse(until) - Date.parse(today)) / 86_400_000)
  return days < 0
    ? until
    : days === 0
      ? 'today is its last day'
      : days <= 14
        ? `${until}, in ${days} ${days === 1 ? 'day' : 'days'}`
        : until
}
const scopeText = ({ waiver: { scope, rule }, assetName }: ProjectWaiver): string =>
  scope.kind === 'finding'
    ? `one finding on ${assetName}`
    : scope.kind === 'asset'
      ? `all of ${rule} on ${assetName}`
      : scope.kind === 'class'
        ? `every ${scope.class}`
        : scope.glob
const fallen = computed(() => waivers.all.filter((w) => w.state === 'ended' || w.state === 'worse'))
const others = computed(() => waivers.all.filter((w) => w.state === 'holds' || w.state === 'unused'))
</script>

<template>
  <div class="ledger">
    <header>
      <h1>Ledger</h1>
      <span class="soft"
        >what the textures take, what was accepted and until when; other charts of the library are not built
        yet</span
      >
    </header>
    <div class="body">
      <MemoryPanel />
      <p v-if="waivers.loaded && waivers.all.length === 0" class="soft none">
        Nothing is accepted. A finding’s card on the bench has “Accept …”.
      </p>
      <template
        v-for="[title, list] in [
          ['Fallen', fallen],
          ['Accepted', others],
        ] as const"
        :key="title"
      >
        <section v-if="list.length > 0">
          <h2>
            {{ title }} <span class="mono">{{ list.length }}</span>
          </h2>
          <table>
            <thead>
              <tr>
                <th />
                <th>Rule</th>
                <th>Reaches</th>
                <th>Why</th>
                <th>Until</th>
                <th>By</th>
                <th />
              </tr>
            </thead>
            <tbody>
              <tr v-for="w in list" :key="w.id" :class="w.state" :data-waiver="w.waiver.rule">
                <td>
                  <LevelShape
                    :state="w.state === 'holds' ? 'waived' : w.state === 'unused' ? 'none' : 'caution'"
                    :title="states[w.state]"
                  />
                </td>
                <td class="mono">{{ w.waiver.rule }}</td>
                <td>
                  <RouterLink
                    v-if="'asset' in w.waiver.scope"
                    :to="{ name: 'bench', params: { project: project.openId, asset: w.waiver.scope.asset } }"
                    >{{ scopeText(w) }}</RouterLink
                  >
                  <template v-else>{{ scopeText(w) }}</template>
                </td>
                <td class="why">
                  {{ w.waiver.reason
                  }}<small v-if="w.state !== 'holds'" class="soft">{{ states[w.state] }}</small>
                </td>
                <td>{{ untilText(w) }}</td>
                <td class="soft">{{ w.waiver.by }}, {{ w.waiver.given }}</td>
                <td>
                  <button class="btn" :disabled="waivers.busy" @click="waivers.takeBack(w, false)">
                    Take back
                  </button>
                </td>
              </tr>
            </tbody>
          </table>
        </section>
      </template>
    </div>
  </div>
</template>

<style scoped src="./viewHead.css"></style>
<style scoped>
.ledger {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
h2 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  padding: 14px 0 6px;
}
.body {
  flex: 1;
  overflow: auto;
  padding: 0 18px 18px;
}
.none {
  padding: 24px 0;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font: 500 12px var(--narrow);
  color: var(--soft);
  text-align: left;
}
th,
td {
  padding: 5px 12px 5px 0;
  border-bottom: 1px solid var(--hair);
  vertical-align: top;
}
td.mono {
  font-size: 12px;
}
.why {
  max-width: 40ch;
  overflow-wrap: anywhere;
}
.why small {
  display: block;
}
</style>
