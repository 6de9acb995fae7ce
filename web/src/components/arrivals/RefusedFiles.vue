<script setup lang="ts">
import { computed } from 'vue'
import type { Delivery } from '@stern-gate/contract'
import LevelShape from '../../marks/LevelShape.vue'

const props = defineProps<{ deliveries: readonly Delivery[] }>()
const emit = defineEmits<{ close: [delivery: string] }>()
const lines = computed(() =>
  props.deliveries.flatMap((d) =>
    [...d.refused, ...d.setAside].map((file) => ({ ...file, number: d.number, delivery: d.id })),
  ),
)
</script>

<template>
  <section v-if="lines.length > 0" class="refused" aria-label="Refused files">
    <p v-for="line in lines" :key="line.id">
      <LevelShape :state="line.state === 'refused' ? 'stop' : 'note'" /><span
        class="narrow no"
        :class="{ aside: line.state !== 'refused' }"
        >{{ line.state === 'refused' ? 'refused' : 'set aside' }}</span
      ><span class="mono path">{{ line.path }}</span>
      <span class="why"
        >{{ line.fault?.why }} <span class="soft">{{ line.fault?.hint }}</span></span
      ><span class="mono soft">{{ line.fault?.code }}</span>
      <button
        class="btn"
        :aria-label="`Put away the refusals of delivery ${line.number}`"
        @click="emit('close', line.delivery)"
      >
        Delivery {{ line.number }} ×
      </button>
    </p>
  </section>
</template>

<style scoped>
.refused {
  border: 1px solid var(--line);
  border-left: 3px solid var(--stop);
  border-radius: 3px;
  background: var(--sheet);
  max-height: 132px;
  overflow: auto;
}
p {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 5px 10px;
  border-bottom: 1px solid var(--hair);
}
p:last-child {
  border-bottom: 0;
}
.no {
  color: var(--stop);
  font-weight: 600;
}
.no.aside {
  color: var(--note);
}
.path {
  flex: none;
  max-width: 30%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.why {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
