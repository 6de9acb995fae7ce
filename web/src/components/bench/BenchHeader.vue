<script setup lang="ts">
import { computed } from 'vue'
import { NDropdown } from 'naive-ui'
import { counts, type AssetDetail, type AssetState } from '@stern-gate/contract'
import { shownVerdict, type ShownVerdict } from '../../marks/verdictWords'
import { useBench } from '../../stores/bench'
import { useProject } from '../../stores/project'
import { useUploads } from '../../stores/uploads'
import VerdictMark from '../../marks/VerdictMark.vue'

/** Name, class, version and target of the asset on the bench, what is under way with it, and its verdict. */
const props = defineProps<{ detail: AssetDetail; judged: AssetState }>()
const emit = defineEmits<{ version: [chosen: string | undefined] }>()
const bench = useBench()
const project = useProject()
const uploads = useUploads()

/** Of the newest version what was judged last; of an older one, and of the source, what is judged here. */
const verdict = computed<ShownVerdict>(() => {
  const now = props.detail,
    shownSide = props.judged.verdict
  if (now.version !== now.versions.at(-1)?.number || bench.side === 'source') return shownSide
  return now.state === 'judged' ? shownSide : shownVerdict({ state: now.state, verdict: null })
})

const count = (l: string): number => props.judged.findings.filter((f) => f.level === l && counts(f)).length
const waived = computed(() => props.judged.findings.filter((f) => !counts(f)).length)
const classes = computed(() => (project.open?.classes ?? []).map((c) => ({ key: c.id, label: c.title })))
const targets = computed(() => (project.open?.targets ?? []).map((t) => ({ key: t.id, label: t.title })))
const versions = computed(() =>
  props.detail.versions.map((v) => ({ key: v.number, label: `Version ${v.number} · ${v.by}` })),
)
const title = (list: { key: string | number; label: string }[], key: string | number | undefined): string =>
  list.find((o) => o.key === key)?.label ?? String(key ?? '')
</script>

<template>
  <header>
    <h1 class="mono">{{ judged.name }}</h1>
    <NDropdown
      v-if="detail.kind === 'mesh'"
      trigger="click"
      size="small"
      :options="classes"
      @select="(key: string) => bench.choose({ class: key })"
      ><button
        class="btn"
        :title="`Class, from ${detail.classFrom === 'choice' ? 'a choice' : `the ${detail.classFrom}`}`"
      >
        {{ title(classes, detail.class) }} ▾
      </button></NDropdown
    >
    <NDropdown
      trigger="click"
      size="small"
      :options="versions"
      @select="(n: number) => emit('version', n === detail.versions.at(-1)?.number ? undefined : String(n))"
      ><button class="btn">version {{ detail.version }} ▾</button></NDropdown
    >
    <NDropdown
      trigger="click"
      size="small"
      :options="targets"
      @select="(key: string) => bench.choose({ target: key })"
      ><button class="btn" title="Target">
        {{ title(targets, detail.target).toLowerCase() }} ▾
      </button></NDropdown
    >
    <span v-if="uploads.sending" class="soft" role="status">taking the files in …</span>
    <span v-else-if="bench.busy || detail.making" class="soft" role="status">making the output …</span>
    <span v-else-if="detail.fault" class="broken" role="status" :title="detail.fault.hint">{{
      detail.fault.why
    }}</span>
    <span v-else-if="detail.outputFault" class="broken" role="status" :title="detail.outputFault.hint"
      >The recipe cannot be applied: {{ detail.outputFault.why }}</span
    >
    <span class="gap" />
    <VerdictMark
      data-verdict
      :verdict="verdict"
      :stops="count('stop')"
      :cautions="count('caution')"
      :notes="count('note')"
      :waived="waived"
    />
    <a class="btn" :href="`/api/assets/${detail.id}/output`" download>Take the output</a>
  </header>
</template>

<style scoped>
header {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 9px;
  padding: 0 14px;
  border-bottom: 1px solid var(--line);
  min-width: 0;
}
h1 {
  font-size: 14px;
  font-weight: 500;
}
.gap {
  flex: 1;
}
.broken {
  color: var(--stop);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
