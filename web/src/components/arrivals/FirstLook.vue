<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { RulebookReply } from '@stern-gate/contract'
import { getRulebook } from '../../api/client'
import { useProject } from '../../stores/project'

// Where most of a library does not fit the rulebook that a project starts with, the rulebook may be what does not fit
const props = defineProps<{ assets: number }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const router = useRouter()
const reply = shallowRef<RulebookReply | null>(null)
const LEAST = 5
watch(
  () => [project.openId, props.assets, project.open?.rulebookRevision] as const,
  async ([id]) => {
    if (id === null || project.open?.rulebookRevision !== 1) return void (reply.value = null)
    reply.value = await getRulebook(id).catch(() => null)
  },
  { immediate: true },
)
const misnamed = computed(() =>
  Math.max(reply.value?.found['names/pattern'] ?? 0, reply.value?.found['names/characters'] ?? 0),
)
const offers = computed(
  () => reply.value?.revision === 1 && props.assets >= LEAST && misnamed.value >= props.assets * 0.5,
)
const fit = (): void =>
  void router.push({ name: 'rulebook', params: { project: project.openId }, query: { fit: '1' } })
</script>

<template>
  <section v-if="offers" class="offer" role="status" data-first-look>
    <p>
      <b>{{ misnamed }} of {{ assets }} assets</b> have names that do not fit the pattern that every project
      starts with. If they are right as they are, the rulebook can be fitted to them.
    </p>
    <button class="btn go" @click="fit">Fit the rulebook …</button>
    <button class="btn" aria-label="Not now" @click="emit('close')">×</button>
  </section>
</template>

<style scoped>
.offer {
  display: flex;
  gap: 8px;
  align-items: center;
  background: var(--wash);
  border: 1px solid var(--tide);
  border-radius: 3px;
  padding: 7px 8px 7px 12px;
}
p {
  flex: 1;
}
</style>
