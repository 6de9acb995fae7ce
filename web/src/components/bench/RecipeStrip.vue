<script setup lang="ts">
import { computed, ref } from 'vue'
import type { WholeDetail, Recipe, RecipeStep } from '@stern-gate/contract'
import { bytesText } from '../../words/formats'

const props = defineProps<{
  detail: WholeDetail
  side: 'source' | 'output'
  busy: boolean
  locked: boolean
}>()
const emit = defineEmits<{
  keep: [Recipe]
  undo: []
  add: []
  edit: [RecipeStep]
  side: ['source' | 'output']
}>()

const word = (s: RecipeStep): string => props.detail.stepWords[s.id] ?? s.remedy
const result = (s: RecipeStep) => props.detail.results.find((r) => r.id === s.id)
const about = (s: RecipeStep): string =>
  [
    s.options['texture'] ?? s.options['node'] ?? '',
    result(s)?.said ?? '',
    s.why === 'own' ? 'of your own' : `asked for by ${s.why}`,
  ]
    .filter(Boolean)
    .join(' · ')
const bytes = computed(() => props.detail.output.files.reduce((sum, f) => sum + f.sizeBytes, 0))
const files = computed(() => props.detail.output.files.length)

const dragged = ref<number | null>(null)
const steps = (change: (list: RecipeStep[]) => RecipeStep[]): void =>
  emit('keep', { steps: change([...props.detail.recipe.steps]) })
const toggle = (i: number): void => steps((list) => list.map((s, k) => (k === i ? { ...s, on: !s.on } : s)))
const remove = (i: number): void => steps((list) => list.filter((_, k) => k !== i))
function move(from: number, to: number): void {
  if (to < 0 || to >= props.detail.recipe.steps.length || from === to) return
  steps((list) => {
    const [step] = list.splice(from, 1)
    list.splice(to, 0, step!)
    return list
  })
}
const drop = (to: number): void => {
  if (dragged.value !== null) move(dragged.value, to)
  dragged.value = null
}
const onKey = (event: KeyboardEvent, i: number): void => {
  if (!event.altKey || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return
  event.preventDefault()
  move(i, i + (event.key === 'ArrowLeft' ? -1 : 1))
}
</script>

<template>
  <footer class="recipe" aria-label="Recipe">
    <div class="end">
      arrived<b>{{ detail.main.split('/').at(-1) }}</b>
    </div>
    <div class="steps" tabindex="0" role="list" aria-label="Steps">
      <template v-for="(s, i) in detail.recipe.steps" :key="s.id">
        <i class="rope" aria-hidden="true" />
        <div
          class="step"
          role="listitem"
          :class="{ off: !s.on, idle: s.on && result(s)?.changed === false }"
          :title="about(s)"
          :draggable="!locked"
          @dragstart="dragged = i"
          @dragover.prevent
          @drop.prevent="drop(i)"
        >
          <button
            class="sw"
            role="switch"
            :aria-checked="s.on"
            :disabled="busy || locked"
            :aria-label="`${word(s)}: ${s.on ? 'on' : 'off'}. Alt and arrows move it`"
            @click="toggle(i)"
            @keydown="onKey($event, i)"
          />
          <button class="word" :disabled="locked" :aria-label="`Change: ${word(s)}`" @click="emit('edit', s)">
            {{ word(s) }}
          </button>
          <button
            class="out"
            :disabled="busy || locked"
            :aria-label="`Take out: ${word(s)}`"
            @click="remove(i)"
          >
            ×
          </button>
        </div>
      </template>
      <i class="rope" aria-hidden="true" />
      <div class="end" role="listitem">
        output<b>{{
          detail.making
            ? 'being made …'
            : detail.outputFault
              ? 'not made'
              : `${files > 1 ? `${files} files · ` : ''}${bytesText(bytes)}`
        }}</b>
      </div>
    </div>
    <button class="btn" :disabled="busy || locked" @click="emit('add')">Add a step <kbd>A</kbd></button>
    <button class="btn" :disabled="busy || locked || !detail.canUndo" @click="emit('undo')">Undo</button>
    <button
      class="btn"
      :class="{ on: side === 'source' }"
      :aria-pressed="side === 'source'"
      @click="emit('side', side === 'source' ? 'output' : 'source')"
    >
      {{ side === 'source' ? 'Source' : 'Output' }} <kbd>B</kbd>
    </button>
  </footer>
</template>

<style scoped>
.recipe {
  border-top: 1px solid var(--line);
  background: var(--sheet);
  display: flex;
  align-items: center;
  padding: 0 14px;
  gap: 6px;
  min-width: 0;
}
.steps {
  flex: 1;
  display: flex;
  align-items: center;
  min-width: 0;
  overflow-x: auto;
  height: 100%;
}
.end {
  font: 500 12px/1.3 var(--narrow);
  color: var(--soft);
  flex: none;
  white-space: nowrap;
}
.end b {
  display: block;
  color: var(--ink);
  font: 500 12px/1.3 var(--mono);
}
.rope {
  width: 22px;
  height: 2px;
  background: repeating-linear-gradient(60deg, var(--soft) 0 3px, transparent 3px 5px);
  flex: none;
  margin: 0 3px;
}
.step {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 6px 4px 6px 8px;
  font: 500 12px/1 var(--narrow);
  background: var(--paper);
  display: flex;
  gap: 6px;
  align-items: center;
  flex: none;
  cursor: grab;
}
.word {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  cursor: pointer;
}
.word:disabled {
  cursor: default;
}
.step.off .word {
  color: var(--soft);
  text-decoration: line-through;
}
.step.idle {
  border-style: dashed;
}
.sw {
  width: 12px;
  height: 12px;
  border-radius: 50%;
  border: 2px solid var(--tide);
  background: var(--tide);
  padding: 0;
  cursor: pointer;
}
.off .sw {
  background: none;
  border-color: var(--soft);
}
.out {
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
  padding: 0 4px;
  font-size: 14px;
  line-height: 12px;
}
.out:hover {
  color: var(--stop);
}
</style>
