<script setup lang="ts">
import { countOf } from '@stern-gate/core/numbers'
import { computed } from 'vue'
import { NVirtualList } from 'naive-ui'
import type { DispatchDetail, EncodedFile } from '@stern-gate/contract'
import { bytesText } from '../../words/formats'
import LongName from '../../marks/LongName.vue'
import LeftBehindList from './LeftBehindList.vue'

// What is in a package, file by file, and what stayed behind
const props = defineProps<{ detail: DispatchDetail }>()
defineEmits<{ close: [] }>()
/** What an encoded texture loses: degrees of a normal map, dB of another; nothing where it is exact. */
const lossText = ({ degrees, psnr }: EncodedFile): string =>
  degrees !== null ? ` · ${degrees.toFixed(2)}°` : psnr !== null ? ` · ${psnr.toFixed(1)} dB` : ''
/** What stands in the package: files, and behind each asset's the textures that were encoded of them. */
const files = computed(() =>
  props.detail.contents.flatMap((a) => [
    ...a.files.map((f) => ({ ...f, note: '' })),
    ...a.encoded.map((e) => ({
      path: e.path,
      sha256: e.sha256,
      sizeBytes: e.sizeBytes,
      note: `${e.format}${lossText(e)}`,
    })),
  ]),
)
/** What the steps of a target pass did, by how often. */
const passWords: readonly (readonly [remedy: string, words: (times: number) => string])[] = [
  ['compression/resize', (n) => `${countOf(n, 'texture')} brought to its sizes`],
  ['colour/flip-green', (n) => `green turned in ${countOf(n, 'normal map')}`],
  ['colour/repack', (n) => `channels of ${countOf(n, 'packed map')} put in its order`],
  ['scale/rescale', (n) => `${countOf(n, 'asset')} in its unit`],
  ['scale/turn-axes', (n) => `${countOf(n, 'asset')} with its axis up`],
]
const made = computed(() => {
  const steps = props.detail.contents.flatMap((a) => a.made)
  const times = (remedy: string): number => steps.filter((s) => s.remedy === remedy).length
  return passWords.flatMap(([remedy, words]) => (times(remedy) > 0 ? [words(times(remedy))] : [])).join(', ')
})
const notEncoded = computed(() => props.detail.contents.flatMap((a) => a.notEncoded))
</script>

<template>
  <div class="contents" role="region" :aria-label="`Dispatch ${detail.number}`">
    <h2>
      <span>In dispatch {{ detail.number }}</span
      ><button class="btn" @click="$emit('close')">Close</button>
    </h2>
    <p v-if="detail.sha256" class="soft hash" :title="detail.sha256">
      SHA-256 <span class="mono">{{ detail.sha256 }}</span>
    </p>
    <p v-if="made" class="soft" data-made>Made for {{ detail.target }} behind the recipes: {{ made }}.</p>
    <p v-if="detail.fault" class="failed">{{ detail.fault.why }} {{ detail.fault.hint }}</p>
    <NVirtualList v-if="files.length > 0" class="list" :items="files" :item-size="24" key-field="path">
      <template #default="{ item }"
        ><div :key="item.path" class="file">
          <LongName class="mono" :name="item.path" :title="item.path" /><span class="mono soft">{{
            item.note
          }}</span
          ><span class="mono soft" :title="item.sha256">{{ item.sha256.slice(0, 10) }}</span
          ><span class="mono soft">{{ bytesText(item.sizeBytes) }}</span>
        </div></template
      >
    </NVirtualList>
    <p
      v-if="notEncoded.length > 0"
      class="failed"
      :title="notEncoded.map((n) => `${n.of}: ${n.why}`).join('\n')"
    >
      {{ notEncoded.length }} {{ notEncoded.length === 1 ? 'texture' : 'textures' }} could not be encoded:
      {{ notEncoded[0]!.why }}
    </p>
    <LeftBehindList
      v-if="detail.leftBehind.length > 0"
      :rows="detail.leftBehind"
      :total="detail.leftBehind.length"
      title="Stayed behind"
    />
  </div>
</template>

<style scoped>
.contents {
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
  padding: 10px 18px;
  border-top: 1px solid var(--tide);
}
h2 {
  display: flex;
  justify-content: space-between;
  align-items: center;
  font: 600 13px/1 var(--text);
  margin-bottom: 8px;
}
.hash {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  margin-bottom: 6px;
}
.failed {
  color: var(--stop);
}
.list {
  flex: 1;
  min-height: 96px;
}
.file {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 90px 70px;
  gap: 10px;
  height: 24px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
}
.file > span {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.file > span:last-child {
  text-align: right;
}
</style>
