<script setup lang="ts">
import { computed } from 'vue'
import type { Verdict } from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core/messages'
import LevelShape from '../marks/LevelShape.vue'

const props = defineProps<{ verdict: Verdict; stops: number; cautions: number; notes: number }>()
const state = computed(() => (props.verdict === 'held' ? 'stop' : props.cautions > 0 ? 'caution' : 'clear'))
const plural = (n: number, word: string): string => `${formatCount(n)} ${word}${n === 1 ? '' : 's'}`
const rest = computed(() =>
  props.stops > 0
    ? plural(props.stops, 'stop')
    : props.cautions > 0
      ? plural(props.cautions, 'caution')
      : props.notes > 0
        ? plural(props.notes, 'note')
        : '',
)
</script>

<template>
  <span class="verdict" :class="state"
    ><LevelShape :state="state" /><b>{{ verdict === 'held' ? 'Held' : 'Clear' }}</b
    ><span v-if="rest" class="narrow">{{ rest }}</span></span
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
