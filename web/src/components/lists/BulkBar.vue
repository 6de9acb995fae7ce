<script setup lang="ts">
import { countOf } from '@stern-gate/core/numbers'
import { computed, defineAsyncComponent, ref } from 'vue'
import { NDropdown } from 'naive-ui'
import { useRouter } from 'vue-router'
import { useBulk } from '../../stores/bulk'
import { useDispatch } from '../../stores/dispatch'
import { useProject } from '../../stores/project'
import { useWaivers } from '../../stores/waivers'

// What can be done to all chosen assets, and the undo of what was done last
const bulk = useBulk()
const waivers = useWaivers()
// Comes when it is asked for
const RenameMany = defineAsyncComponent(() => import('./RenameMany.vue'))
const MendDialog = defineAsyncComponent(() => import('../mending/MendDialog.vue'))
const renaming = ref(false)
const WaiveMany = defineAsyncComponent(() => import('../waivers/WaiveMany.vue'))
const mending = ref(false)
const accepting = ref(false)
const OriginDialog = defineAsyncComponent(() => import('../origin/OriginDialog.vue'))
const origin = ref(false)
const dispatch = useDispatch()
const project = useProject()
const router = useRouter()
function toDispatch(): void {
  dispatch.choose([...bulk.chosen])
  void router.push({ name: 'dispatch', params: { project: project.openId } })
}
const toFit = (): void =>
  void router.push({ name: 'rulebook', params: { project: project.openId }, query: { fit: '1' } })
const SHOWN = 2
const word = (offer: (typeof bulk.offers)[number]): string =>
  `${offer.remedyTitle} on ${countOf(offer.assets, 'asset')}${offer.findings > offer.assets ? `, ${offer.findings} times` : ''}`
const more = computed(() =>
  bulk.offers.slice(SHOWN).map((o, i) => ({ key: String(i + SHOWN), label: word(o) })),
)
</script>

<template>
  <div
    v-if="bulk.chosen.size > 0 || bulk.last || waivers.last.length > 0"
    class="bulk"
    role="region"
    aria-label="Many at once"
  >
    <template v-if="bulk.chosen.size > 0">
      <b>{{ countOf(bulk.chosen.size, 'asset') }} chosen</b>
      <button
        v-if="bulk.renamed > 0"
        class="btn go"
        :disabled="bulk.busy"
        data-remedy="names/rename"
        @click="renaming = true"
      >
        Rename on {{ countOf(bulk.renamed, 'asset') }} …
      </button>
      <button
        v-for="offer in bulk.offers.slice(0, SHOWN)"
        :key="offer.rule + offer.remedy"
        class="btn go"
        :disabled="bulk.busy"
        :title="`For every finding of ${offer.rule}`"
        :data-remedy="offer.remedy"
        @click="bulk.apply(offer)"
      >
        {{ word(offer) }}
      </button>
      <NDropdown
        v-if="more.length > 0"
        trigger="click"
        size="small"
        placement="top"
        :options="more"
        @select="(key: string) => bulk.apply(bulk.offers[Number(key)]!)"
        ><button class="btn" :disabled="bulk.busy">{{ more.length }} more ▴</button></NDropdown
      >
      <span v-if="bulk.offers.length === 0 && bulk.renamed === 0" class="soft"
        >None of their findings has a remedy that is built.</span
      >
      <span class="gap" />
      <button class="btn" data-mend-chosen @click="mending = true">Mend what is safe …</button>
      <button class="btn" data-accept-chosen @click="accepting = true">Accept …</button>
      <NDropdown
        trigger="click"
        size="small"
        placement="top"
        :options="[
          { key: 'origin', label: 'Origin …' },
          { key: 'fit', label: 'Fit the rulebook to these …' },
        ]"
        @select="(key: string) => (key === 'fit' ? toFit() : (origin = true))"
        ><button class="btn" data-more>More ▴</button></NDropdown
      >
      <button class="btn" @click="toDispatch">Dispatch these …</button>
      <button class="btn" @click="bulk.clear()">Choose none <kbd>Esc</kbd></button>
    </template>
    <template v-if="waivers.last.length > 0">
      <span class="done" role="status">Accepted: {{ countOf(waivers.last.length, 'finding') }}</span>
      <button class="btn" data-take-back @click="waivers.takeBack(waivers.last[0]!, true)">
        Take it back
      </button>
      <button class="btn" aria-label="Put this away" @click="waivers.putAway()">×</button>
    </template>
    <template v-if="bulk.last">
      <span v-if="bulk.chosen.size === 0" class="gap" />
      <span class="done" role="status"
        >{{ bulk.last.remedyTitle }}: {{ countOf(bulk.last.steps, 'step') }} on
        {{ countOf(bulk.last.assets, 'asset') }}</span
      >
      <template v-if="bulk.last.state !== 'done'"
        ><span class="soft narrow"
          >{{ bulk.last.state === 'undoing' ? 'taking back' : 'changing' }} {{ bulk.last.done }} of
          {{ bulk.last.total }} …</span
        ></template
      >
      <template v-else-if="bulk.last.open > 0"
        ><span class="soft narrow"
          >{{ bulk.last.assets - bulk.last.open }} of {{ bulk.last.assets }} outputs made</span
        ><i
          class="bar"
          role="progressbar"
          aria-label="Outputs made"
          aria-valuemin="0"
          :aria-valuemax="bulk.last.assets"
          :aria-valuenow="bulk.last.assets - bulk.last.open"
          ><b :style="{ width: `${(1 - bulk.last.open / bulk.last.assets) * 100}%` }" /></i
      ></template>
      <button
        class="btn"
        data-undo
        :disabled="bulk.busy || bulk.last.state === 'undoing'"
        @click="bulk.undo()"
      >
        Undo all
      </button>
      <button class="btn" aria-label="Put this away" @click="bulk.putAway()">×</button>
    </template>
    <WaiveMany v-if="accepting" :assets="[...bulk.chosen]" @close="accepting = false" />
    <MendDialog
      v-if="mending"
      :assets="[...bulk.chosen]"
      :of="countOf(bulk.chosen.size, 'asset')"
      @close="mending = false"
    />
    <OriginDialog
      v-if="origin"
      :assets="[...bulk.chosen]"
      :given="null"
      :said="null"
      @close="origin = false"
    />
    <RenameMany v-if="renaming" @close="renaming = false" />
  </div>
</template>

<style scoped>
.bulk {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 46px;
  padding: 6px 18px;
  border-top: 1px solid var(--tide);
  background: var(--wash);
  flex: none;
  flex-wrap: wrap;
}
.gap {
  flex: 1;
}
.bar {
  width: 120px;
  height: 6px;
  background: var(--hair);
}
.bar b {
  display: block;
  height: 100%;
  background: var(--tide);
  transition: width 0.25s;
}
.done {
  color: var(--clear);
  font-weight: 500;
}
</style>
