<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { marked } from 'marked'
import { picturedStations, type RuleInfo } from '@stern-gate/contract'
import { getRulePage } from '../../api/client'
import LevelShape from '../../marks/LevelShape.vue'
import { useRulebook } from '../../stores/rulebook'
import { useWaivers } from '../../stores/waivers'

// What a rule says and offers, what differs from the start, and what is excepted from it
const props = defineProps<{ rule: RuleInfo }>()
const book = useRulebook()
const waivers = useWaivers()
const html = ref('')
watch(
  () => props.rule.id,
  async (rule, _, over) => {
    let gone = false
    over(() => (gone = true))
    html.value = ''
    const text = await getRulePage(rule)
      .then((page) => page.text)
      .catch(() => '')
    if (gone) return
    // Title, reason and limits stand beside already; the tested cases are for those who build rules
    const sections = text.split(/^## /m).filter((s) => /^(What it says|Remedies offered)/.test(s))
    html.value = await marked.parse(
      sections.map((s) => `## ${s.replace(/\{(\w+)(?:\|[^}]*)?\}/g, '*$1*')}`).join('\n'),
    )
  },
  { immediate: true },
)
/** Rules of names and files have nothing to look at. */
const picture = computed(() => `/rules/${props.rule.id.replace('/', '-')}.webp`),
  missing = ref<string | null>(null)
const pictured = computed(
  () => picturedStations.includes(props.rule.station) && missing.value !== props.rule.id,
)
const reads = computed(() => props.rule.reads.join(', '))
/** Settings of the rule that are not those of the start. */
const own = computed(() => {
  const setting = book.draft?.rules[props.rule.id]
  if (!setting) return []
  return [
    ...(setting.enabled === false ? ['not judged'] : []),
    ...(setting.level ? [`${props.rule.level} → ${setting.level}`] : []),
    ...Object.entries(setting.levelByClass ?? {}).map(([of, level]) => `${of}: ${level}`),
    ...Object.entries(setting.options ?? {}).map(([name, value]) => {
      const first = props.rule.fields.find((f) => f.name === name)?.default
      return `${name} ${String(first)} → ${String(value)}`
    }),
  ]
})
const accepted = computed(() => waivers.all.filter((w) => w.waiver.rule === props.rule.id))
</script>

<template>
  <aside class="about" aria-label="About the rule" tabindex="0">
    <figure v-if="pictured">
      <img :src="picture" :alt="`A file that has the fault: ${rule.title}`" @error="missing = rule.id" />
      <figcaption class="soft">A made-up crate that has the fault, as the stage shows it.</figcaption>
    </figure>
    <h2>What it measures</h2>
    <p>{{ reads }}</p>
    <template v-if="own.length > 0">
      <h2>Differs from the start</h2>
      <p v-for="line in own" :key="line" class="mono">{{ line }}</p>
    </template>
    <template v-if="accepted.length > 0">
      <h2>Accepted</h2>
      <p v-for="w in accepted.slice(0, 8)" :key="w.id">
        <LevelShape state="waived" /> {{ w.assetName ?? 'further' }}: “{{ w.waiver.reason }}”
      </p>
    </template>
    <!-- eslint-disable-next-line vue/no-v-html -- our own page, generated from the rule -->
    <div class="page" v-html="html" />
    <p class="soft mono id">{{ rule.id }}</p>
  </aside>
</template>

<style scoped>
figure {
  margin: 0 0 10px;
}
img {
  display: block;
  width: 100%;
}
figcaption {
  font-size: 11.5px;
  margin-top: 3px;
}
.about {
  width: 270px;
  flex: none;
  border-left: 1px solid var(--line);
  padding: 16px;
  overflow: auto;
  font-size: 12.5px;
}
h2,
.page :deep(h2) {
  font: 600 11.5px/1.2 var(--narrow);
  color: var(--soft);
  margin: 12px 0 4px;
}
h2:first-child {
  margin-top: 0;
}
.mono {
  font-size: 12px;
}
.page :deep(ul) {
  padding-left: 0;
  list-style: none;
}
.page :deep(li) {
  margin-bottom: 5px;
  line-height: 1.35;
}
.page :deep(code) {
  font: 400 11px var(--mono);
  color: var(--soft);
}
.page :deep(em) {
  color: var(--tide);
  font-style: normal;
}
.id {
  margin-top: 14px;
}
</style>
