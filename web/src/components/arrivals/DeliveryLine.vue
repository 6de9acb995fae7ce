<script setup lang="ts">
import { computed } from 'vue'
import type { Delivery } from '@stern-gate/contract'
import { bytesText } from '../../words/formats'

const props = defineProps<{
  delivery: Delivery
  doing: string | undefined
  sending: { bytes: number; bytesSent: number; files: number; sent: number } | null
}>()
defineEmits<{ cancel: [] }>()
const receiving = computed(() => props.sending !== null)
const share = computed(() => {
  if (props.sending) return props.sending.bytes > 0 ? props.sending.bytesSent / props.sending.bytes : 0
  return props.delivery.bytes > 0 ? props.delivery.bytesDone / props.delivery.bytes : 1
})
const said = computed(() => (receiving.value ? 'receiving the files' : (props.doing ?? 'measuring')))
const counted = computed(() =>
  props.sending
    ? `${props.sending.sent} of ${props.sending.files} sent`
    : `${props.delivery.done} of ${props.delivery.files} measured`,
)
</script>

<template>
  <section class="delivery" :aria-label="`Delivery ${delivery.number} under way`">
    <div class="head">
      <p>
        <b>Delivery {{ delivery.number }}</b> {{ delivery.note }}
        <span class="soft"
          >· {{ sending?.files ?? delivery.files }} files · {{ bytesText(sending?.bytes ?? delivery.bytes)
          }}<template v-if="delivery.intake"> · by {{ delivery.intake.name }}</template></span
        >
      </p>
      <button class="btn" @click="$emit('cancel')">Stop it</button>
    </div>
    <div class="head">
      <p class="mono doing">{{ said }}</p>
      <span class="soft narrow">{{ counted }}</span>
    </div>
    <div
      class="bar"
      role="progressbar"
      :aria-label="`Delivery ${delivery.number}`"
      aria-valuemin="0"
      aria-valuemax="100"
      :aria-valuenow="Math.round(share * 100)"
    >
      <i :style="{ width: `${share * 100}%` }" />
    </div>
  </section>
</template>

<style scoped>
.delivery {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 9px 12px 12px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  min-height: 24px;
}
.doing {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bar {
  height: 6px;
  margin-top: 6px;
  background: var(--hair);
  background-image: repeating-linear-gradient(
    90deg,
    transparent 0 calc(25% - 1px),
    var(--soft) calc(25% - 1px) 25%
  );
}
.bar i {
  display: block;
  height: 100%;
  background: var(--tide);
  transition: width 0.25s;
}
</style>
