<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { NConfigProvider, darkTheme } from 'naive-ui'
import { useRoute } from 'vue-router'
import ChartMast from './components/frame/ChartMast.vue'
import DropCatcher from './components/frame/DropCatcher.vue'
import FaultBand from './components/frame/FaultBand.vue'
import KeyHelp from './components/frame/KeyHelp.vue'
import ServerBand from './components/frame/ServerBand.vue'
import { useFaults } from './stores/faults'
import { useProject } from './stores/project'
import { naiveOverrides } from './theme/naiveTheme'
import { useNight } from './theme/useNight'
import { useWindowKey } from './keys/useWindowKey'

const route = useRoute()
const project = useProject()
const faults = useFaults()
const night = useNight()
const helping = ref(false),
  finding = ref(false)
// Comes when it is asked for
const FindAnything = defineAsyncComponent(() => import('./components/frame/FindAnything.vue'))
const overrides = ref(naiveOverrides())
watch(
  night,
  () => {
    overrides.value = naiveOverrides()
  },
  { flush: 'post' },
)

const projectId = computed(() =>
  typeof route.params['project'] === 'string' ? route.params['project'] : null,
)
watch(
  projectId,
  (id) => {
    if (id) project.enter(id)
  },
  { immediate: true },
)
onMounted(() => project.load().catch(faults.put))

useWindowKey(onKey)

function onKey(event: KeyboardEvent): void {
  const typing = (event.target as HTMLElement).matches('input, textarea, select')
  // On lists / goes to their own field
  if (
    project.open &&
    !typing &&
    !event.ctrlKey &&
    !event.metaKey &&
    !event.altKey &&
    (event.key === 'f' || (event.key === '/' && route.name === 'bench'))
  ) {
    event.preventDefault()
    finding.value = true
  }
  if (event.key === '?' && !typing) helping.value = !helping.value
  else if (event.key === 'Escape' && helping.value) helping.value = false
}
</script>

<template>
  <NConfigProvider :theme="night ? darkTheme : null" :theme-overrides="overrides" abstract>
    <div class="frame">
      <ChartMast @help="helping = !helping" @find="finding = true" />
      <main>
        <div class="bands">
          <ServerBand />
          <FaultBand v-if="faults.shown" :fault="faults.shown" @close="faults.clear" />
        </div>
        <RouterView />
      </main>
      <DropCatcher v-if="project.open" />
      <FindAnything v-if="finding" @close="finding = false" />
      <KeyHelp v-if="helping" @close="helping = false" />
    </div>
  </NConfigProvider>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: 52px minmax(0, 1fr);
  height: 100%;
}
main {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
main > .bands {
  grid-row: 1;
}
main > :last-child {
  grid-row: 2;
}
</style>
