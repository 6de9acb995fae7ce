<script setup lang="ts">
import type { CarriedSetting } from '@stern-gate/contract'

// What becomes of a slot's settings at the target, and the model as it is drawn there
defineProps<{
  lines: readonly CarriedSetting[]
  targetTitle: string
  /** Whether the stage draws what the target keeps. */
  asKept: boolean
}>()
const emit = defineEmits<{ show: [asKept: boolean] }>()
</script>

<template>
  <section data-carry-over>
    <h3>
      On {{ targetTitle }}
      <button
        v-if="asKept || lines.some((l) => l.fate !== 'kept')"
        class="btn"
        :class="{ on: asKept }"
        :aria-pressed="asKept"
        title="The model as the target draws it; inputs and UV channels beyond its limits are drawn all the same"
        data-as-kept
        @click="emit('show', !asKept)"
      >
        {{ asKept ? 'As the file says' : 'See it so' }}
      </button>
    </h3>
    <ul>
      <li v-for="(l, i) in lines" :key="i" :class="l.fate">
        <b>{{ l.setting }}</b> <span class="mono soft">{{ l.value }}</span>
        <span class="fate">{{ l.fate }}</span>
        <small v-if="l.how" class="soft">{{ l.how }}</small>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  margin-top: 9px;
  padding-top: 7px;
  border-top: 1px solid var(--hair);
}
h3 {
  font: 600 12px/1.4 var(--narrow);
  margin: 0 0 2px;
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.btn {
  padding: 1px 8px;
  font-size: 12px;
}
.btn.on {
  border-color: var(--tide);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 0 7px;
  align-items: baseline;
  font: 500 12.5px/1.5 var(--narrow);
}
li b {
  font-weight: 500;
}
li small {
  grid-column: 1 / -1;
  margin: -2px 0 3px;
  font-size: 11.5px;
}
.lost .fate {
  color: var(--caution);
}
.changed .fate {
  color: var(--note);
}
</style>
