<script setup lang="ts">
import { computed } from 'vue'
import { stations, stationTitles, type RuleInfo } from '@stern-gate/contract'
import LevelShape from '../../marks/LevelShape.vue'
import { useRulebook } from '../../stores/rulebook'
import { levelNow } from './ruleLevels'

// Rules by station, each with its level and how many assets it speaks of
const props = defineProps<{ chosen: string | null; find: string }>()
const emit = defineEmits<{ choose: [string] }>()
const book = useRulebook()
const fits = (rule: RuleInfo): boolean =>
  `${rule.title} ${rule.id} ${rule.why}`.toLowerCase().includes(props.find.trim().toLowerCase())
const groups = computed(() =>
  stations
    .map((station) => ({ station, rules: book.rules.filter((r) => r.station === station && fits(r)) }))
    .filter((g) => g.rules.length > 0),
)
const found = (rule: string): number => book.reply?.found[rule] ?? 0
/** Something of the rule differs from what a new project starts with. */
const differs = (rule: string): boolean => book.draft?.rules[rule] !== undefined
function step(way: number): void {
  const all = groups.value.flatMap((g) => g.rules.map((r) => r.id)),
    at = all.indexOf(props.chosen ?? '')
  const next = all[Math.min(all.length - 1, Math.max(0, at + way))]
  if (next) {
    emit('choose', next)
    document.querySelector<HTMLElement>(`[data-rule-line="${next}"]`)?.focus()
  }
}
</script>

<template>
  <div class="list" @keydown.down.prevent="step(1)" @keydown.up.prevent="step(-1)">
    <section v-for="g in groups" :key="g.station">
      <h2>{{ stationTitles[g.station] }}</h2>
      <button
        v-for="r in g.rules"
        :key="r.id"
        class="line"
        :class="{ on: r.id === chosen, off: levelNow(book.draft, r) === 'off' }"
        :data-rule-line="r.id"
        :aria-current="r.id === chosen ? 'true' : undefined"
        @click="emit('choose', r.id)"
      >
        <LevelShape
          :state="levelNow(book.draft, r) === 'off' ? 'none' : (levelNow(book.draft, r) as 'note')"
        />
        <span class="t">{{ r.title }}</span>
        <span class="n mono">{{ found(r.id) || '' }}</span>
        <i v-if="differs(r.id)" class="own" title="Differs from the start" />
      </button>
    </section>
    <p v-if="groups.length === 0" class="soft none">No rule has that in its words.</p>
  </div>
</template>

<style scoped>
.list {
  overflow: auto;
  min-height: 0;
  padding-bottom: 16px;
}
h2 {
  font: 600 11.5px/1 var(--narrow);
  color: var(--soft);
  padding: 13px 14px 6px;
}
.line {
  display: grid;
  grid-template-columns: 16px 1fr auto 8px;
  gap: 7px;
  align-items: start;
  width: 100%;
  padding: 5px 14px 5px 11px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
  line-height: 1.3;
}
.line:hover {
  background: var(--hair);
}
.line.on {
  background: var(--wash);
  border-left-color: var(--tide);
  font-weight: 500;
}
.line.off .t {
  color: var(--soft);
}
.n {
  font-size: 11.5px;
  color: var(--soft);
}
.own {
  width: 7px;
  height: 7px;
  margin-top: 5px;
  background: var(--tide);
  transform: rotate(45deg);
}
.line :deep(svg) {
  margin-top: 2px;
}
.none {
  padding: 14px;
}
</style>
