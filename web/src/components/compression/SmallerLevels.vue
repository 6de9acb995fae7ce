<script setup lang="ts">
import { computed } from 'vue'
import type { EncodingFacts } from '@stern-gate/contract'
import { formatShare } from '@stern-gate/core/numbers'
import { decibelText } from '../../words/formats'

// What the mips of an encoded texture lose: each against the mip that it was encoded from
const props = defineProps<{ facts: EncodingFacts }>()
const hasCoverage = computed(() => props.facts.smaller.some((l) => l.coverage !== null))
const rows = computed(() =>
  props.facts.smaller.map((level) => ({
    size: `${level.width} × ${level.height}`,
    error: level.angle === null ? decibelText(level.psnr) : `${level.angle.toFixed(2)}°`,
    drawn: level.coverage === null ? '' : formatShare(level.coverage),
  })),
)
</script>

<template>
  <details v-if="rows.length > 0" class="smaller" data-smaller>
    <summary>Smaller levels</summary>
    <table>
      <thead>
        <tr>
          <th>Level</th>
          <th class="figure">{{ facts.angle ? 'Off by' : 'Error' }}</th>
          <th v-if="hasCoverage" class="figure">Drawn</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.size">
          <td class="mono">{{ r.size }}</td>
          <td class="figure mono">{{ r.error }}</td>
          <td v-if="hasCoverage" class="figure mono">{{ r.drawn }}</td>
        </tr>
      </tbody>
    </table>
  </details>
  <p v-else-if="facts.levels > 1" class="soft none">
    The library made the smaller levels: they are not compared.
  </p>
</template>

<style scoped>
.smaller {
  margin-top: 6px;
}
summary {
  color: var(--soft);
  font: 500 12.5px/1.5 var(--narrow);
  cursor: pointer;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  color: var(--soft);
  font: 600 12px/1.3 var(--narrow);
  padding: 2px 0;
}
td {
  font-size: 12px;
  padding: 1px 0;
  border-top: 1px solid var(--hair);
}
.figure {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.none {
  margin: 6px 0 0;
  font-size: 12px;
}
</style>
