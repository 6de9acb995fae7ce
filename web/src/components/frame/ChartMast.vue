<script setup lang="ts">
import { computed } from 'vue'
import { NDropdown } from 'naive-ui'
import { useRoute, useRouter } from 'vue-router'
import { useProject } from '../../stores/project'
import { useNight } from '../../theme/useNight'
import { mastIcons } from './mastIcons'

defineEmits<{ help: []; find: [] }>()
const route = useRoute()
const router = useRouter()
const project = useProject()
const night = useNight()

/** Where the mast leads, with the views that belong there. */
const places: { name: keyof typeof mastIcons; views: string[] }[] = [
  { name: 'arrivals', views: ['arrivals', 'scene'] },
  { name: 'assets', views: ['assets', 'bench'] },
  { name: 'pairing', views: ['pairing'] },
  { name: 'rulebook', views: ['rulebook'] },
  { name: 'ledger', views: ['ledger'] },
  { name: 'dispatch', views: ['dispatch'] },
]
const title = (name: string): string => name[0]!.toUpperCase() + name.slice(1)
const options = computed(() => [
  ...project.all.map((p) => ({ key: p.id, label: p.name })),
  { key: 'new', label: 'New project …' },
])
const go = (key: string): void => {
  void router.push(
    key === 'new' ? { name: 'welcome', query: { new: '1' } } : { name: 'arrivals', params: { project: key } },
  )
}
</script>

<template>
  <nav class="mast" aria-label="Main">
    <NDropdown trigger="click" size="small" placement="right-start" :options="options" @select="go">
      <button
        class="mark"
        :aria-label="`Project: ${project.open?.name ?? 'none'}. Choose another`"
        :title="project.open?.name ?? 'Projects'"
      >
        <svg viewBox="0 0 30 30" fill="none" stroke="var(--mast-mark)" stroke-width="1.8" aria-hidden="true">
          <path d="M4 5h22v9c0 6-4.600 9.500-11 11.500C8.600 23.500 4 20 4 14z" />
          <path d="M15 5v20.500M9.500 5v17.200M20.500 5v17.200" stroke-width="1.2" />
          <path d="M4 12h22" stroke-width="1.2" />
        </svg>
      </button>
    </NDropdown>
    <template v-for="{ name, views } in places" :key="name">
      <RouterLink
        v-if="project.open"
        :to="{ name, params: { project: project.open.id } }"
        class="stop"
        :class="{ on: views.includes(String(route.name)) }"
      >
        <svg viewBox="0 0 24 24" aria-hidden="true" v-html="mastIcons[name]" />{{ title(name) }}
      </RouterLink>
    </template>
    <span class="gap" />
    <button v-if="project.open" class="stop" title="Find any name (F)" @click="$emit('find')">
      <svg viewBox="0 0 24 24" aria-hidden="true" v-html="mastIcons.find" />Find
    </button>
    <button
      class="stop"
      :aria-label="night ? 'Turn to day' : 'Turn to night'"
      :title="night ? 'Day' : 'Night'"
      @click="night = !night"
    >
      <svg viewBox="0 0 24 24" aria-hidden="true" v-html="mastIcons.day" />
    </button>
    <button class="stop" aria-label="Keys of this screen" title="Keys (?)" @click="$emit('help')">
      <svg viewBox="0 0 24 24" aria-hidden="true" v-html="mastIcons.help" />
    </button>
  </nav>
</template>

<style scoped>
.mast {
  background: var(--mast);
  display: flex;
  flex-direction: column;
  align-items: center;
  padding: 8px 0;
  gap: 2px;
  border-right: 1px solid var(--hair);
}
.mark {
  width: 36px;
  height: 36px;
  padding: 3px;
  margin-bottom: 6px;
  background: none;
  border: 0;
  cursor: pointer;
}
.stop {
  width: 52px;
  padding: 7px 0 6px;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 4px;
  font: 500 11px/1 var(--narrow);
  color: var(--mast-ink);
  position: relative;
  text-decoration: none;
  background: none;
  border: 0;
  cursor: pointer;
}
.stop svg {
  width: 18px;
  height: 18px;
  stroke: currentColor;
  stroke-width: 1.6;
  fill: none;
}
.stop.on {
  color: var(--on-mast);
}
.stop.on::before {
  content: '';
  position: absolute;
  left: 0;
  top: 8px;
  bottom: 8px;
  width: 3px;
  background: var(--mast-mark);
}
.gap {
  flex: 1;
}
</style>
