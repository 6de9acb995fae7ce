<script setup lang="ts">
import { computed, ref } from 'vue'
import { glossary, type AssetState, type BenchTexture, type Station } from '@stern-gate/contract'
import { stationFacts } from '../../bench/stationFacts'
import LongName from '../../marks/LongName.vue'
import OriginLine from '../origin/OriginLine.vue'
import ChannelHistogram from './ChannelHistogram.vue'

/** What was measured of an asset and belongs to a station, in plain figures; `texture` is the one on the desk. */
const props = defineProps<{
  station: Station
  state: AssetState
  texture: BenchTexture | null
  side: 'source' | 'output' | 'preview'
}>()
const facts = computed(() => stationFacts(props.station, props.state, props.texture))
const histograms = computed(() => (props.station === 'colour' ? (props.texture?.facts?.channels ?? []) : []))
/** The term whose meaning is open. */
const asked = ref<string | null>(null)
const ask = (term: string): void => void (asked.value = asked.value === term ? null : term)
/** One texel in how many the histograms count; null where they count all. */
const sampledPart = computed(() => {
  const header = props.texture?.facts?.header,
    counted = histograms.value[0]?.histogram.reduce((a, b) => a + b, 0) ?? 0
  const part = header && counted > 0 ? Math.round((header.width * header.height) / counted) : 1
  return part > 1 ? part : null
})
</script>

<template>
  <aside class="facts" aria-label="Facts" tabindex="0">
    <h2>Facts of the {{ side }}</h2>
    <section v-for="g in facts" :key="g.title">
      <h3>{{ g.title }}</h3>
      <dl>
        <div v-for="r in g.rows" :key="r.name" class="row">
          <dt :title="r.name" :class="{ alone: r.value === '' }">
            <template v-if="r.value === ''">{{ r.name }}</template><LongName v-else :name="r.name" /><button
              v-if="glossary[r.name]"
              class="ask"
              :aria-expanded="asked === r.name"
              :aria-label="`What is ${r.name}?`"
              @click="ask(r.name)"
            >
              ?
            </button>
          </dt>
          <dd v-if="r.value !== ''" :title="r.value"><LongName :name="r.value" /></dd>
          <dd v-if="asked === r.name" class="means" role="note">{{ glossary[r.name] }}</dd>
        </div>
      </dl>
    </section>
    <OriginLine v-if="station === 'files'" />
    <ChannelHistogram v-for="c in histograms" :key="c.name" :channel="c" />
    <p v-if="sampledPart" class="soft sampled">
      The curves count one texel in {{ sampledPart }}; mean and deviation count all.
    </p>
    <p v-if="facts.length === 0 && histograms.length === 0" class="soft">
      Nothing is measured for this station.
    </p>
  </aside>
</template>

<style scoped>
.sampled {
  font-size: 12px;
  line-height: 1.4;
  margin: 0;
}
.facts {
  padding: 10px 12px;
  overflow: auto;
  min-width: 0;
  border-left: 1px solid var(--line);
}
h2,
h3 {
  font: 600 12px/1 var(--narrow);
  color: var(--soft);
  margin: 2px 0 8px;
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 16px;
}
h3 {
  margin-top: 4px;
  color: var(--ink);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  display: block;
  line-height: 1.3;
}
dl {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  margin-bottom: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 10px;
}
dt {
  color: var(--soft);
  font: 500 12.5px/1.3 var(--narrow);
  overflow: hidden;
  white-space: nowrap;
  min-width: 0;
  flex: 1 1 0;
  display: flex;
  align-items: center;
}
dt.alone {
  max-width: none;
  white-space: normal;
}
dd {
  margin: 0;
  font: 400 12px/1.4 var(--mono);
  min-width: 0;
  max-width: 70%;
}
.ask {
  border: 0;
  background: none;
  color: var(--soft);
  font: 600 11px/1 var(--narrow);
  padding: 2px 4px;
  margin-left: 2px;
  cursor: pointer;
  opacity: 0.55;
}
.ask:hover,
.ask:focus-visible,
.ask[aria-expanded='true'] {
  opacity: 1;
  color: var(--ink);
}
.means {
  flex-basis: 100%;
  max-width: none;
  font: 400 12.5px/1.45 var(--text);
  border-left: 2px solid var(--line);
  padding: 2px 0 4px 8px;
  margin-bottom: 4px;
}
dd :deep(.long) {
  justify-content: flex-end;
}
</style>
