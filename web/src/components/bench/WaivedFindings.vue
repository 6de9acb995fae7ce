<script setup lang="ts">
import { ref } from 'vue'
import type { Finding } from '@stern-gate/contract'
import LevelShape from '../../marks/LevelShape.vue'

// What was accepted at this station, folded to a line
defineProps<{ findings: readonly Finding[]; chosen: Finding | null }>()
const emit = defineEmits<{ choose: [Finding] }>()
const open = ref(false)
</script>

<template>
  <section v-if="findings.length > 0" class="waived" data-waived>
    <button class="line" :aria-expanded="open" @click="open = !open">
      <LevelShape state="waived" />{{ findings.length }} accepted {{ open ? '▴' : '▾' }}
    </button>
    <template v-if="open">
      <button
        v-for="f in findings"
        :key="f.fingerprint"
        class="one"
        :class="{ on: f === chosen }"
        @click="emit('choose', f)"
      >
        <span>{{ f.text }}</span>
        <small class="soft"
          >“{{ f.waived?.reason }}” {{ f.waived?.by
          }}<template v-if="f.waived?.until">, until {{ f.waived.until }}</template></small
        >
      </button>
    </template>
  </section>
</template>

<style scoped>
.waived {
  border-top: 1px solid var(--hair);
  padding-top: 6px;
}
.line {
  display: flex;
  gap: 7px;
  align-items: center;
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
  padding: 3px 0;
}
.one {
  display: block;
  width: 100%;
  text-align: left;
  border: 0;
  border-left: 2px solid var(--line);
  background: none;
  padding: 4px 8px;
  cursor: pointer;
  overflow-wrap: anywhere;
  color: var(--soft);
}
.one.on {
  border-left-color: var(--tide);
}
.one small {
  display: block;
}
</style>
