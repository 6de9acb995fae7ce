<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import {
  stationTitles,
  type AssetDetail,
  type AssetState,
  type Finding,
  type Station,
} from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core/numbers'
import { bundlesOf } from '../../bench/bundles'
import { plainerStages } from '../../bench/stageOfStation'
import type { StepByHand } from '../../bench/stepByHand'
import LevelShape from '../../marks/LevelShape.vue'
import { useBench } from '../../stores/bench'
import { useProject } from '../../stores/project'
import { useWaivers } from '../../stores/waivers'
import FindingBundle from './FindingBundle.vue'
import WaivedFindings from './WaivedFindings.vue'

// Findings of a station: what counts, what was accepted, and the words for a station without any
const props = defineProps<{
  detail: AssetDetail
  judged: AssetState
  station: Station
  findings: readonly Finding[]
  waived: readonly Finding[]
  chosen: Finding | null
  locked: boolean
  room: number
}>()
const emit = defineEmits<{ choose: [Finding]; byHand: [StepByHand] }>()
const WaiverDialog = defineAsyncComponent(() => import('../waivers/WaiverDialog.vue'))
const bench = useBench()
const project = useProject()
const waivers = useWaivers()
/** Findings that are about to be accepted. */
const accepting = ref<Finding[] | null>(null)
const bundles = computed(() => bundlesOf(props.findings))
const classTitle = computed(
  () => project.open?.classes.find((c) => c.id === props.detail.class)?.title ?? props.detail.class,
)
const quiet = computed(() => props.findings.length === 0)
</script>

<template>
  <aside class="findings" aria-label="Findings" tabindex="0">
    <h2>
      <span
        >{{ stationTitles[station] }}: {{ formatCount(findings.length) }} finding{{
          findings.length === 1 ? '' : 's'
        }}</span
      ><span v-if="judged.findings.length > 0"><kbd>N</kbd> next</span>
    </h2>
    <FindingBundle
      v-for="b in bundles"
      :key="b.key"
      :findings="b.findings"
      :chosen="chosen"
      :busy="bench.busy"
      :locked="locked"
      :room="room"
      @choose="(f) => emit('choose', f)"
      @point="bench.startPreview"
      @leave="bench.endPreview()"
      @apply="bench.apply"
      @by-hand="(draft) => emit('byHand', draft)"
      @accept="(list) => (accepting = list)"
    />
    <p v-if="waivers.last.length > 0" class="given" role="status">
      Accepted.
      <button class="btn" data-take-back @click="waivers.takeBack(waivers.last[0]!, true)">
        Take it back
      </button>
    </p>
    <p v-if="quiet" class="quiet">
      <LevelShape :state="judged.tally[station].state" />{{
        judged.tally[station].state === 'none'
          ? 'No rule of this station applies to this kind of asset.'
          : waived.length > 0
            ? 'All that the rules of this station found is accepted.'
            : 'The rules of this station found nothing.'
      }}
    </p>
    <WaivedFindings :findings="waived" :chosen="chosen" @choose="(f) => emit('choose', f)" />
    <p v-if="plainerStages[station]" class="soft later">{{ plainerStages[station] }}</p>
    <WaiverDialog
      v-if="accepting"
      :asset="{ id: detail.id, class: detail.class, classTitle }"
      :findings="accepting"
      @close="accepting = null"
    />
  </aside>
</template>

<style scoped>
h2 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin: 2px 0 8px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 16px;
}
.quiet {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 9px 10px;
  margin-bottom: 7px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-left: 3px solid var(--clear);
  border-radius: 3px;
  color: var(--soft);
}
.later {
  padding: 10px 4px;
  font-size: 12px;
}
.given {
  display: flex;
  gap: 8px;
  align-items: center;
  color: var(--clear);
  padding: 6px 0;
}
</style>
