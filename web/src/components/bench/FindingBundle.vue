<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Finding, RemedyOffer } from '@stern-gate/contract'
import { actOf, listedOf } from '../../bench/bundles'
import type { StepByHand } from '../../bench/stepByHand'
import { formatCount } from '@stern-gate/core/numbers'
import FindingCard from './FindingCard.vue'

// Findings of one rule: the first stands for all until the others are asked for, or one of them is chosen
const props = defineProps<{
  findings: Finding[]
  chosen: Finding | null
  busy: boolean
  locked: boolean
  room: number
}>()
const emit = defineEmits<{
  choose: [Finding]
  point: [string, RemedyOffer[]]
  leave: []
  apply: [string, RemedyOffer[]]
  byHand: [StepByHand]
  accept: [Finding[]]
}>()

const asked = ref(false)
const more = computed(() => props.findings.length - 1)
const open = computed(() => asked.value || props.findings.indexOf(props.chosen!) > 0)
const shown = computed(() =>
  open.value ? listedOf(props.findings, props.chosen) : props.findings.slice(0, 1),
)
const unlisted = computed(() => (open.value ? props.findings.length - shown.value.length : 0))
const act = computed(() => (more.value > 0 ? actOf(props.findings, props.room) : null))
const rule = computed(() => props.findings[0]!.rule)
function fold(): void {
  const chosen = props.chosen
  asked.value = !open.value
  if (!asked.value && chosen && props.findings.indexOf(chosen) > 0) emit('choose', chosen)
}
</script>

<template>
  <section :class="{ bundle: more > 0, folded: !open }">
    <template v-for="(f, i) in shown" :key="f.fingerprint">
      <FindingCard
        :finding="f"
        :chosen="f === chosen"
        :busy="busy"
        :locked="locked"
        @choose="emit('choose', f)"
        @point="(o) => emit('point', f.rule, [o])"
        @leave="emit('leave')"
        @apply="(o) => emit('apply', f.rule, [o])"
        @by-hand="(draft) => emit('byHand', draft)"
        @accept="emit('accept', !open && more > 0 ? [...findings] : [f])"
      />
      <div v-if="i === 0 && more > 0" class="like" :class="f.level">
        <button class="fold" :aria-expanded="open" @click="fold">
          {{ open ? `Fold the ${formatCount(more)} others` : `${formatCount(more)} more like it` }}
        </button>
        <button
          v-if="act"
          class="btn"
          :disabled="busy || locked"
          @pointerenter="emit('point', rule, act.offers)"
          @pointerleave="emit('leave')"
          @focus="emit('point', rule, act.offers)"
          @blur="emit('leave')"
          @click="emit('apply', rule, act.offers)"
        >
          {{ act.label }}
        </button>
      </div>
    </template>
    <p v-if="unlisted > 0" class="soft unlisted">
      {{ formatCount(unlisted) }} more are not listed here; <kbd>N</kbd> goes through all of them.
    </p>
  </section>
</template>

<style scoped>
.bundle :deep(.find:first-child) {
  margin-bottom: 0;
  border-radius: 3px 3px 0 0;
}
.like {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 10px;
  padding: 6px 10px 7px 30px;
  margin-bottom: 7px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--level);
  border-top: 0;
  border-radius: 0 0 3px 3px;
  background: var(--sheet);
}
.folded .like {
  box-shadow:
    0 3px 0 -1px var(--paper),
    0 4px 0 -1px var(--line),
    0 7px 0 -3px var(--paper),
    0 8px 0 -3px var(--line);
  margin-bottom: 15px;
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
.fold {
  background: none;
  border: 0;
  padding: 3px 0;
  font: 600 12.5px/1.2 var(--narrow);
  color: var(--tide);
  cursor: pointer;
}
.fold:hover {
  text-decoration: underline;
}
.like .btn {
  max-width: 100%;
  white-space: normal;
  overflow-wrap: anywhere;
  text-align: left;
  line-height: 1.3;
}
.unlisted {
  font-size: 12px;
  margin: 0 0 12px 4px;
  line-height: 1.5;
}
</style>
