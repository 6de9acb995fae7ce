<script setup lang="ts">
import { computed } from 'vue'
import type { RemedyOptions } from '@stern-gate/contract'
import { presetOf, surfacePresetNames } from '@stern-gate/core/surfaces'
import { useSurfaces } from '../../stores/surfaces'
import SharedSurface from './SharedSurface.vue'

// What a slot's surface begins with: what arrived, one that ships, or one of the project, which it follows
const props = defineProps<{ slotName: string; said: RemedyOptions; locked: boolean }>()
const emit = defineEmits<{ choose: [{ preset: string } | { shared: string } | null] }>()
const project = useSurfaces()
const OWN = 'own '
const begun = computed(() =>
  typeof props.said['shared'] === 'string' ? OWN + props.said['shared'] : (props.said['preset'] ?? ''),
)
function choose(chosen: string): void {
  if (chosen.startsWith(OWN)) emit('choose', { shared: chosen.slice(OWN.length) })
  else emit('choose', chosen ? { preset: chosen } : null)
}
</script>

<template>
  <label class="begin">
    <span>Begin with</span>
    <select
      class="field"
      :value="begun"
      :disabled="locked"
      data-preset
      @change="choose(($event.target as HTMLSelectElement).value)"
    >
      <option value="">what arrived</option>
      <optgroup v-if="project.all.length > 0" label="Surfaces of the project">
        <option v-for="s in project.all" :key="s.name" :value="OWN + s.name">{{ s.name }}</option>
      </optgroup>
      <optgroup label="Surfaces that ship">
        <option v-for="name in surfacePresetNames" :key="name" :value="name">
          {{ presetOf(name)!.title }}
        </option>
      </optgroup>
    </select>
  </label>
  <SharedSurface
    :said="{ ...said, slot: slotName }"
    :locked="locked"
    @follow="(name) => emit('choose', { shared: name })"
  />
</template>

<style scoped src="../forms/field.css" />
<style scoped>
.begin {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  min-height: 25px;
  margin-top: 6px;
  font: 500 12.5px/1.3 var(--narrow);
  color: var(--soft);
}
</style>
