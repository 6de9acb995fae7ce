<script setup lang="ts">
// Figures over the lower part of a stage: rows that may be chosen
export interface TableColumn {
  key: string
  title: string
  figure?: boolean
}
export interface TableRow {
  id: string
  chip?: string
  cells: Record<string, string>
  bar?: number
  over?: boolean
}
defineProps<{
  columns: readonly TableColumn[]
  rows: readonly TableRow[]
  chosen: string | null
  label: string
}>()
defineEmits<{ choose: [string] }>()
</script>

<template>
  <div class="table" tabindex="0" role="region" :aria-label="label">
    <table>
      <thead>
        <tr>
          <th v-for="c in columns" :key="c.key" :class="{ figure: c.figure }">{{ c.title }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.id" :class="{ on: r.id === chosen, over: r.over }">
          <td v-for="(c, i) in columns" :key="c.key" :class="{ figure: c.figure }">
            <button v-if="i === 0" :aria-pressed="r.id === chosen" @click="$emit('choose', r.id)">
              <i v-if="r.chip" class="chip" :style="{ background: r.chip }" />{{ r.cells[c.key] }}
            </button>
            <template v-else>{{ r.cells[c.key] }}</template>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.table {
  overflow: auto;
  background: var(--sheet);
  border-top: 1px solid var(--line);
}
table {
  border-collapse: collapse;
  width: 100%;
  font: 500 12px/1.3 var(--narrow);
}
th {
  position: sticky;
  top: 0;
  background: var(--sheet);
  text-align: left;
  color: var(--soft);
  font-weight: 600;
  padding: 6px 10px 4px;
  white-space: nowrap;
}
td {
  padding: 3px 10px;
  border-top: 1px solid var(--hair);
  white-space: nowrap;
  max-width: 230px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.figure {
  text-align: right;
  font-family: var(--mono);
  font-weight: 400;
  font-variant-numeric: tabular-nums;
}
th.figure {
  font-family: var(--narrow);
  font-weight: 600;
}
tr.on td {
  background: var(--wash);
}
tr.over .figure {
  color: var(--stop);
}
button {
  background: none;
  border: 0;
  padding: 2px 0;
  cursor: pointer;
  display: inline-flex;
  gap: 7px;
  align-items: center;
  font: 400 12px var(--mono);
}
.chip {
  width: 11px;
  height: 11px;
  border-radius: 2px;
  flex: none;
}
</style>
