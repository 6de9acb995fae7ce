<script setup lang="ts">
import { computed } from 'vue'
import { stations, stationTitles } from '@stern-gate/contract'
import { useBulk } from '../../stores/bulk'
import { useLibrary } from '../../stores/library'

// Heads of a list of assets; the box chooses all that are listed
const bulk = useBulk()
const library = useLibrary()
const all = computed(() => library.total > 0 && bulk.chosen.size === library.total)
const toggle = async (): Promise<void> => (all.value ? bulk.clear() : bulk.choose(await library.allIds()))
const short: Partial<Record<(typeof stations)[number], string>> = {
  compression: 'Compr.',
  collision: 'Collis.',
}
</script>

<template>
  <div class="heads narrow">
    <label class="pick"
      ><input
        type="checkbox"
        :checked="all"
        :disabled="library.total === 0"
        aria-label="Choose all that are listed"
        @change="toggle"
    /></label>
    <span /><span class="asset">Asset</span><span>Class</span><span class="ver">Ver.</span
    ><span v-for="s in stations" :key="s" class="st">{{ short[s] ?? stationTitles[s] }}</span
    ><span class="verdict">Verdict</span><span>Brought by</span>
  </div>
</template>

<style scoped>
.heads {
  display: grid;
  grid-template-columns: 26px var(--asset-columns);
  align-items: end;
  padding: 4px 18px 6px;
  border-bottom: 1px solid var(--line);
  font-size: 12px;
  font-weight: 600;
  color: var(--soft);
  flex: none;
}
.pick {
  display: flex;
}
input {
  accent-color: var(--tide);
  margin: 0;
  width: 14px;
  height: 14px;
}
.asset {
  padding-left: 12px;
}
.ver {
  text-align: right;
  padding-right: 8px;
}
/* The marks end where the verdict begins */
.verdict {
  padding-left: 14px;
}
.st {
  text-align: center;
  font-size: 11px;
  letter-spacing: -0.01em;
  white-space: nowrap;
  overflow: hidden;
}
</style>
