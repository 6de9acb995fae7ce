<script setup lang="ts">
import { computed } from 'vue'
import { countOf, formatCount } from '@stern-gate/core/numbers'
import LevelShape from './LevelShape.vue'
import { verdictShapes, verdictWords, type ShownVerdict } from './verdictWords'

const props = defineProps<{
  verdict: ShownVerdict
  stops: number
  cautions: number
  notes: number
  waived?: number
}>()
const isJudged = computed(() => props.verdict === 'held' || props.verdict === 'clear')
const state = computed(() =>
  props.verdict === 'clear' && props.cautions > 0 ? 'caution' : verdictShapes[props.verdict],
)
const rest = computed(() =>
  !isJudged.value
    ? ''
    : props.stops > 0
      ? countOf(props.stops, 'stop')
      : props.cautions > 0
        ? countOf(props.cautions, 'caution')
        : props.notes > 0
          ? countOf(props.notes, 'note')
          : '',
)
const accepted = computed(() => (isJudged.value && props.waived ? `${formatCount(props.waived)} waived` : ''))
</script>

<template>
  <span class="verdict" :class="state"
    ><LevelShape :state="state" /><b>{{ verdictWords[verdict] }}</b
    ><span v-if="rest || accepted" class="narrow">{{
      [rest, accepted].filter((t) => t !== '').join(', ')
    }}</span></span
  >
</template>

<style scoped>
.verdict {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
.verdict b {
  font-weight: 600;
}
.stop b,
.stop .narrow {
  color: var(--stop);
}
.caution b,
.caution .narrow {
  color: var(--caution);
}
.waiting b {
  color: var(--soft);
  font-weight: 500;
}
.clear b {
  color: var(--clear);
}
.verdict .narrow {
  font-size: 12px;
  font-weight: 500;
}
.clear .narrow {
  color: var(--soft);
}
</style>
