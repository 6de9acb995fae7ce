<script setup lang="ts">
import { computed } from 'vue'
import type { Finding, RemedyOffer } from '@stern-gate/contract'
import { stepByHand, type StepByHand } from '../../bench/stepByHand'
import { channelText } from '../../words/formats'
import { wordsByHand } from '../../words/wordsByHand'
import { defineAsyncComponent, ref } from 'vue'
import { useApart } from '../../bench/useApart'
import LevelShape from '../../marks/LevelShape.vue'
import { useProject } from '../../stores/project'
import ValueGauge from './ValueGauge.vue'

const props = defineProps<{ finding: Finding; chosen: boolean; busy: boolean; locked: boolean }>()
const emit = defineEmits<{
  choose: []
  point: [RemedyOffer]
  leave: []
  apply: [RemedyOffer]
  byHand: [StepByHand]
  accept: []
}>()

// The page of the rule comes when it is asked for
const RuleHelp = defineAsyncComponent(() => import('./RuleHelp.vue'))
const asking = ref(false)
const apart = useApart()
const project = useProject()
/** Levels and collision can be taken over; clips and a skin belong to the mesh that they move. */
const canKeep = computed(
  () =>
    props.finding.rule === 'files/less-than-before' &&
    /level|collision/.test(String(props.finding.data['had'])),
)
const severalThings = computed(() => props.finding.rule === 'files/several-things')
/** Rules that speak of textures without a slot, and of slots without a texture. */
const PAIRED = ['slots/missing-input', 'slots/wrong-input', 'slots/empty', 'files/unreferenced-texture']
const pairs = computed(() => PAIRED.includes(props.finding.rule))
const ownStep = computed(() => stepByHand(props.finding))
const place = computed(() => {
  const p = props.finding.place
  switch (p.kind) {
    case 'asset':
      return 'the whole asset'
    case 'file':
      return p.file
    case 'node':
      return p.node
    case 'slot':
      return p.input ? `${p.slot} / ${p.input}` : p.slot
    case 'texture':
      return p.texture
    case 'triangles':
      return `${p.node} / part ${p.primitive + 1}`
    case 'channel':
      return `${p.node} / ${channelText(p.channel)}`
    case 'name':
      return p.name
  }
  return ''
})
</script>

<template>
  <article class="find" :class="[finding.level, { chosen }]" :data-rule="finding.rule">
    <button class="said" :aria-pressed="chosen" @click="emit('choose')">
      <LevelShape :state="finding.level" /><span
        ><span class="visually-hidden">{{ finding.level }}: </span>{{ finding.text }}</span
      >
    </button>
    <p class="at mono" :title="`${place} · ${finding.rule}`">
      <span>{{ place }}</span><button
        class="ask"
        :aria-label="`About the rule ${finding.rule}`"
        :title="finding.rule"
        @click="asking = true"
      >
        ?
      </button>
    </p>
    <RuleHelp v-if="asking" :rule="finding.rule" @close="asking = false" />
    <p v-if="finding.waived?.fallen" class="fallen">
      {{
        finding.waived.fallen === 'ended'
          ? `Was accepted until ${finding.waived.until}`
          : 'Was accepted, and is worse now'
      }}: “{{ finding.waived.reason }}”
    </p>
    <ValueGauge v-if="finding.gauge" :gauge="finding.gauge" :level="finding.level" />
    <div class="do">
      <button
        v-for="(offer, i) in finding.remedies"
        :key="i"
        class="btn"
        :class="{ go: i === 0 }"
        :disabled="busy || locked"
        @pointerenter="emit('point', offer)"
        @pointerleave="emit('leave')"
        @focus="emit('point', offer)"
        @blur="emit('leave')"
        @click="emit('apply', offer)"
      >
        {{ offer.label }}
      </button>
      <RouterLink
        v-if="pairs && project.openId"
        class="btn"
        data-to-pairing
        :to="{ name: 'pairing', params: { project: project.openId } }"
        >Pairing …</RouterLink
      >
      <button v-if="severalThings" class="btn go" data-take-apart :disabled="locked" @click="apart.open()">
        Take it apart …
      </button>
      <button v-if="canKeep" class="btn go" data-keep :disabled="busy || locked" @click="apart.keep()">
        Keep it from version {{ finding.data['version'] }}
      </button>
      <button v-if="ownStep" class="btn" :disabled="busy || locked" @click="emit('byHand', ownStep)">
        {{ ownStep.label }} …
      </button>

      <span
        v-if="!ownStep && !severalThings && finding.remedies.length === 0 && wordsByHand(finding.rule)"
        class="soft narrow none"
        >{{ wordsByHand(finding.rule) }}</span
      >
      <button class="btn quiet" data-accept :disabled="busy" @click="emit('accept')">Accept …</button>
    </div>
  </article>
</template>

<style scoped>
.find {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-left: 3px solid var(--level);
  border-radius: 3px;
  padding: 8px 10px;
  margin-bottom: 7px;
}
.find.chosen {
  outline: 1px solid var(--tide);
  outline-offset: 1px;
}
.stop {
  --level: var(--stop);
}
.caution {
  --level: var(--caution);
}
.note {
  --level: var(--note);
}
.said {
  display: flex;
  gap: 7px;
  font-weight: 500;
  text-align: left;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  width: 100%;
  line-height: 1.35;
  overflow-wrap: anywhere;
}
.said > span {
  min-width: 0;
}
.said :deep(svg) {
  margin-top: 2px;
}
.at {
  font-size: 11.5px;
  color: var(--soft);
  margin: 2px 0 0 20px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.at {
  display: flex;
  gap: 6px;
  align-items: center;
}
.at span {
  overflow: hidden;
  text-overflow: ellipsis;
  flex: 1;
}
.ask {
  width: 18px;
  height: 18px;
  flex: none;
  border: 1px solid var(--line);
  border-radius: 50%;
  background: none;
  font: 600 11px/1 var(--text);
  color: var(--soft);
  cursor: pointer;
}
.ask:hover {
  border-color: var(--tide);
  color: var(--tide);
}
.do {
  display: flex;
  gap: 6px;
  margin: 8px 0 1px 20px;
  flex-wrap: wrap;
}
.do .btn {
  max-width: 100%;
  white-space: normal;
  overflow-wrap: anywhere;
  text-align: left;
  line-height: 1.3;
}
.fallen {
  margin: 4px 0 0 20px;
  font-size: 12px;
  color: var(--caution);
}
.do .quiet {
  color: var(--soft);
  margin-left: auto;
}
.none {
  flex-basis: 100%;
  font-size: 12px;
}
</style>
