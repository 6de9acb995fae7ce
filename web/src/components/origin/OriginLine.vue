<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useBench } from '../../stores/bench'
import { useProject } from '../../stores/project'

// Where the asset on the bench came from, with a way to say it
const OriginDialog = defineAsyncComponent(() => import('./OriginDialog.vue'))
const bench = useBench()
const project = useProject()
const open = ref(false)
const origin = computed(() => bench.detail?.origin ?? null)
const said = computed(() => bench.detail?.source.mesh?.file.origin ?? null)
const rows = computed(() => {
  const { given, terms } = origin.value ?? { given: null, terms: null }
  if (!given) return []
  return [
    ['Terms', terms?.title ?? (given.terms === '' ? 'not known' : `“${given.terms}”, not in the rulebook`)],
    ['Hand-over', terms?.handOver ?? 'not known'],
    ...(given.author ? [['Author', given.author]] : []),
    ...(given.source ? [['Source', given.source]] : []),
    ...(given.link ? [['Link', given.link]] : []),
  ]
})
</script>

<template>
  <section v-if="origin" class="origin" data-origin>
    <h3>Origin</h3>
    <p v-if="bench.detail?.scene" data-scene>
      Taken out of
      <RouterLink
        :to="{ name: 'scene', params: { project: project.openId, scene: bench.detail.scene.id } }"
        >{{ bench.detail.scene.name }}</RouterLink>.
    </p>
    <dl v-if="rows.length > 0">
      <div v-for="[name, value] in rows" :key="name" class="row">
        <dt>{{ name }}</dt>
        <dd :title="value">{{ value }}</dd>
      </div>
    </dl>
    <p v-else class="soft">Nobody said where it came from.</p>
    <p v-if="origin.by === 'rulebook'" class="soft">By its folder, as the rulebook says.</p>
    <button class="btn" data-origin-open @click="open = true">
      {{ origin.given ? 'Change' : 'Say where from' }} …
    </button>
    <OriginDialog
      v-if="open"
      :assets="[bench.detail!.id]"
      :given="origin.by === 'asset' ? origin.given : null"
      :said="said"
      @close="open = false"
    />
  </section>
</template>

<style scoped>
.origin {
  margin-top: 14px;
}
h3 {
  font: 600 12px/1.2 var(--narrow);
  margin-bottom: 5px;
}
.row {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 2px 0;
}
dt {
  color: var(--soft);
}
dd {
  text-align: right;
  overflow: hidden;
  text-overflow: ellipsis;
}
.btn {
  margin-top: 6px;
}
</style>
