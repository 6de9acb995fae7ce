<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'

defineEmits<{ close: [] }>()
const route = useRoute()
const box = ref<HTMLElement | null>(null)
onMounted(() => box.value?.focus())
const bench: [string, string][] = [
  ['1 … 9, 0', 'go to a station'],
  ['[ and ]', 'previous and next station with findings'],
  ['N, Shift N', 'next and previous finding'],
  ['B', 'source or output'],
  ['D', 'before and after, with a divider'],
  ['V', 'next variant of the file; Shift: the one before'],
  ['A', 'add a step of your own'],
  ['M', 'mend what is safe'],
  ['\\', 'fold the facts away'],
  ['Ctrl Z', 'undo the last change of the recipe'],
  ['Esc', 'back to Arrivals'],
]
const arrivals: [string, string][] = [
  ['/', 'find a name, a rule, a person'],
  ['↑ ↓', 'move along the assets'],
  ['Enter', 'open the bench'],
  ['X', 'choose the asset, for one remedy on many'],
  ['Ctrl V', 'take in files from the clipboard'],
]
const rulebook: [string, string][] = [
  ['/', 'find a rule'],
  ['↑ ↓', 'move along the rules'],
  ['← →', 'move a limit that has the focus; with Shift further'],
]
const scene: [string, string][] = [
  ['↑ ↓', 'move along the parts'],
  ['X', 'choose the part'],
  ['J', 'make one asset of the chosen parts'],
  ['S', 'take the part apart further'],
  ['O', 'leave the part out, or keep it'],
  ['Enter', 'take the file apart'],
]
const pairing: [string, string][] = [
  ['↑ ↓ ← →', 'move along slots and inputs'],
  ['Enter', 'accept the line'],
  ['Shift Enter', 'accept all cells above the confidence that is set'],
  ['1 2 3', 'take the next best; the last one leaves the cell open'],
  ['/', 'find a texture of the tray for the cell'],
  ['Ctrl Z', 'undo'],
]
const ofScreens: Partial<Record<string, [string, string][]>> = {
  bench,
  scene,
  rulebook,
  arrivals,
  assets: arrivals,
  pairing,
}
const keys = computed(() => [
  ...(ofScreens[String(route.name)] ?? []),
  [route.name === 'bench' ? 'F or /' : 'F', 'find any name of the project'] as [string, string],
  ['?', 'this list'] as [string, string],
])
</script>

<template>
  <div class="veil" @click.self="$emit('close')">
    <section ref="box" class="box" role="dialog" aria-label="Keys of this screen" tabindex="-1">
      <h2>Keys of this screen</h2>
      <dl>
        <template v-for="[key, does] in keys" :key="key"
          ><dt>
            <kbd>{{ key }}</kbd>
          </dt>
          <dd>{{ does }}</dd></template
        >
      </dl>
      <button class="btn" @click="$emit('close')">Close</button>
    </section>
  </div>
</template>

<style scoped src="../dialog.css" />
<style scoped>
.box {
  padding: 18px 22px;
  min-width: 380px;
}
h2 {
  font: 600 15px/1.2 var(--text);
  margin-bottom: 12px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 7px 16px;
  margin-bottom: 16px;
}
dd {
  margin: 0;
}
</style>
