<script setup lang="ts">
import type { AssetRow } from '@stern-gate/contract'
import { blobAddress } from '../../api/client'
import { whenText } from '../../words/formats'
import { tallyShapes, tallyWords } from '../../marks/levelShapes'
import { shownVerdict } from '../../marks/verdictWords'
import VerdictMark from '../../marks/VerdictMark.vue'

defineProps<{ asset: AssetRow; to: object; chosen: boolean }>()
defineEmits<{ toggle: [] }>()
</script>

<template>
  <div class="line" :class="{ chosen }">
    <label class="pick"
      ><input
        type="checkbox"
        :checked="chosen"
        :aria-label="`Choose ${asset.name}`"
        tabindex="-1"
        @change="$emit('toggle')"
    /></label>
    <RouterLink class="to" :to="to" :data-asset="asset.id">
      <span class="thumb"
        ><img
          v-if="asset.thumbnail"
          :src="blobAddress(asset.thumbnail)"
          alt=""
          width="38"
          height="38"
          loading="lazy"
      /></span>
      <span class="name"
        ><b class="mono">{{ asset.name }}</b
        ><small class="soft">{{
          asset.headline ||
          (asset.steps > 0 ? `mended by ${asset.steps} step${asset.steps === 1 ? '' : 's'}` : '')
        }}</small></span
      >
      <span class="narrow">{{ asset.kind === 'mesh' ? asset.classTitle : 'Texture set' }}</span>
      <span class="mono version">{{ asset.version }}</span>
      <svg
        class="tally"
        role="img"
        :aria-label="asset.state === 'judged' ? tallyWords(asset.tally) : 'Not judged yet'"
        v-html="tallyShapes(asset.tally)"
      />
      <VerdictMark
        class="verdict-cell"
        :verdict="shownVerdict(asset)"
        :stops="asset.stops"
        :cautions="asset.cautions"
        :notes="asset.notes"
        :waived="asset.waived"
      />
      <span class="soft narrow">{{ asset.by }} · {{ whenText(asset.updated) }}</span>
    </RouterLink>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr);
  height: 45px;
  padding: 0 18px;
  border-bottom: 1px solid var(--hair);
  contain: strict;
}
.to {
  display: grid;
  grid-template-columns: var(--asset-columns);
  align-items: center;
  color: inherit;
  text-decoration: none;
  min-width: 0;
}
.line:hover {
  background: var(--wash);
}
.to:focus-visible {
  outline-offset: -2px;
}
.line:focus-within {
  background: var(--wash);
}
.line.chosen {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--tide);
}
.pick {
  display: flex;
  align-items: center;
  align-self: stretch;
}
input {
  accent-color: var(--tide);
  margin: 0;
  width: 14px;
  height: 14px;
}
.thumb {
  width: 38px;
  height: 38px;
  background: var(--stage);
  border-radius: 2px;
  overflow: hidden;
}
.name {
  display: grid;
  line-height: 1.25;
  padding: 0 12px;
  min-width: 0;
}
.name b {
  font-size: 13px;
  font-weight: 400;
}
.name b,
.name small {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.name small {
  font: 500 11.5px/1.3 var(--narrow);
}
.version {
  text-align: right;
  padding-right: 10px;
}
.tally {
  grid-column: span 10;
  width: 100%;
  height: 13px;
  overflow: visible;
}
.verdict-cell {
  padding-left: 14px;
}
</style>
