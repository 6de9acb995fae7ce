<script setup lang="ts">
import { onBeforeUnmount, onMounted, watch } from 'vue'
import DispatchContents from '../components/dispatch/DispatchContents.vue'
import DispatchLine from '../components/dispatch/DispatchLine.vue'
import NextDispatch from '../components/dispatch/NextDispatch.vue'
import { useDispatch } from '../stores/dispatch'
import { useProject } from '../stores/project'

// The package that leaves: what is clear, for a target, with a manifest; and those that left
const project = useProject()
const dispatch = useDispatch()
const leave = project.onEvent(dispatch.hear)
onBeforeUnmount(() => {
  leave()
  dispatch.putAway()
})
watch(
  () => project.open?.id,
  (now, before) => {
    // What was chosen belongs to the project that it was chosen in
    if (before !== undefined && now !== before) dispatch.choose(null)
    void dispatch.refresh()
  },
  { immediate: true },
)
watch(
  () => project.connected,
  (now, before) => {
    if (now && !before) void dispatch.refresh()
  },
)
onMounted(() => {
  document.title = 'Dispatch · Stern Gate'
})
</script>

<template>
  <div class="dispatch">
    <header>
      <h1>Dispatch</h1>
      <span class="soft">what is clear leaves as one zip, with a manifest of hashes and recipes</span>
    </header>
    <div class="body">
      <NextDispatch />
      <section class="past" aria-label="Past dispatches">
        <h2>Past dispatches</h2>
        <div class="lines" :class="{ short: dispatch.open }" tabindex="0">
          <DispatchLine
            v-for="d in dispatch.past"
            :key="d.id"
            :dispatch="d"
            :open="dispatch.open?.id === d.id"
            @look="dispatch.open?.id === d.id ? dispatch.putAway() : dispatch.look(d.id)"
          />
          <p v-if="dispatch.loaded && dispatch.past.length === 0" class="soft none">Nothing has left yet.</p>
        </div>
        <DispatchContents v-if="dispatch.open" :detail="dispatch.open" @close="dispatch.putAway()" />
      </section>
    </div>
  </div>
</template>

<style scoped src="./viewHead.css"></style>
<style scoped>
.dispatch {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
}
.past {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
h2 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  padding: 14px 18px 8px;
}
.lines {
  overflow: auto;
  flex: 1;
  min-height: 100px;
  border-top: 1px solid var(--hair);
}
.lines.short {
  flex: 0 1 auto;
  max-height: 40%;
}
.none {
  padding: 12px 18px;
}
</style>
