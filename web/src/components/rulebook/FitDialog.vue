<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { fitTopics, type Proposal } from '@stern-gate/contract'
import { useRulebook } from '../../stores/rulebook'
import { useProposalEffects } from './useProposalEffects'

// What the library itself suggests: each proposal is taken or left, by itself or with all others
const props = defineProps<{ assets: readonly string[] | null }>()
const emit = defineEmits<{ close: [] }>()
const book = useRulebook()
const box = ref<HTMLElement | null>(null)
const chosen = ref<Set<string>>(new Set())
const opened = ref<string | null>(null)
const topicWords: Record<Proposal['topic'], string> = {
  names: 'Names',
  roles: 'Words for roles',
  conventions: 'Conventions',
  classes: 'Classes',
}
onMounted(() => {
  box.value?.focus()
  void book.askFit(props.assets)
})
watch(
  () => book.fit,
  (fit) => (chosen.value = new Set(fit?.proposals.filter((p) => p.change.length > 0).map((p) => p.id) ?? [])),
)
const topics = computed(() =>
  fitTopics
    .map((topic) => ({ topic, proposals: book.fit?.proposals.filter((p) => p.topic === topic) ?? [] }))
    .filter((t) => t.proposals.length > 0),
)
const proposed = computed(() => book.fit?.proposals.filter((p) => p.change.length > 0) ?? [])
function toggle(id: string): void {
  const next = new Set(chosen.value)
  if (!next.delete(id)) next.add(id)
  chosen.value = next
}
function take(): void {
  book.accept(proposed.value.filter((p) => chosen.value.has(p.id)))
  emit('close')
}
const { alone, together } = useProposalEffects(proposed, chosen)
const share = (p: Proposal): string => (p.of === 0 ? '' : `fits ${p.fits} of ${p.of}`)
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <section ref="box" class="box" role="dialog" aria-label="Fit to the library" tabindex="-1">
      <header>
        <h2>Fit to the library</h2>
        <span v-if="book.fit" class="soft"
          >from {{ book.fit.assets }} {{ assets ? 'chosen' : '' }} assets, taken for good as they are</span
        >
        <span class="gap" /><button class="btn" aria-label="Close" @click="emit('close')">×</button>
      </header>
      <div class="body">
        <p v-if="book.fitting" class="soft pad">Looking at what is there …</p>
        <p v-else-if="book.fit && book.fit.proposals.length === 0" class="soft pad">
          Nothing to propose: the rulebook fits what is there.
        </p>
        <template v-for="t in topics" :key="t.topic">
          <h3>{{ topicWords[t.topic] }}</h3>
          <article
            v-for="p in t.proposals"
            :key="p.id"
            :class="{ none: p.change.length === 0 }"
            :data-proposal="p.id"
          >
            <input
              v-if="p.change.length > 0"
              type="checkbox"
              :checked="chosen.has(p.id)"
              :aria-label="`Take: ${p.title}`"
              @change="toggle(p.id)"
            /><i v-else />
            <div>
              <p class="title">
                <b>{{ p.title }}</b>
                <span class="soft">{{ p.change.length > 0 ? share(p) : 'nothing is proposed' }}</span>
              </p>
              <p v-if="p.change.length > 0" class="values mono">
                <s>{{ p.now }}</s><br /><span>{{ p.then }}</span>
              </p>
              <p v-if="p.change.length > 0" class="soft" data-alone>
                By itself: {{ alone.get(p.id) ?? '…' }}
              </p>
              <p v-if="p.note" class="soft">{{ p.note }}</p>
              <p v-if="p.change.length === 0" class="groups">
                <span v-for="g in p.groups.slice(0, 5)" :key="g.words"
                  ><b class="mono">{{ g.count }}</b> {{ g.words }}:
                  <span class="mono soft">{{ g.examples.join(', ') }}</span></span
                >
              </p>
              <button
                v-if="p.misfits.length > 0 && p.change.length > 0"
                class="more"
                @click="opened = opened === p.id ? null : p.id"
              >
                {{ p.of - p.fits }} that {{ p.of - p.fits === 1 ? 'does' : 'do' }} not
                {{ opened === p.id ? '▴' : '▾' }}
              </button>
              <p v-if="opened === p.id" class="misfits mono">{{ p.misfits.join(' · ') }}</p>
            </div>
          </article>
        </template>
      </div>
      <footer>
        <span class="soft" data-together
          >{{ together ? `The chosen ones: ${together}. ` : '' }}Nothing is saved yet.</span
        ><span class="gap" />
        <button class="btn" @click="emit('close')">Leave all</button>
        <button class="btn go" data-take :disabled="chosen.size === 0" @click="take">
          Take {{ chosen.size === proposed.length ? 'all' : chosen.size
          }}{{ chosen.size === proposed.length ? ` ${chosen.size}` : ` of ${proposed.length}` }}
        </button>
      </footer>
    </section>
  </div>
</template>

<style scoped src="../dialog.css"></style>
<style scoped>
.box {
  width: min(860px, 94vw);
  max-height: 88vh;
  display: flex;
  flex-direction: column;
}
header,
footer {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
}
footer {
  border: 0;
  border-top: 1px solid var(--line);
}
h2 {
  font: 600 15px var(--text);
}
h3 {
  font: 600 11.5px/1 var(--narrow);
  color: var(--soft);
  padding: 14px 0 6px;
}
.body {
  overflow: auto;
  padding: 0 16px 14px;
  min-height: 120px;
}
.pad {
  padding: 24px 0;
}
article {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr);
  align-items: start;
  padding: 8px 0;
  border-bottom: 1px solid var(--hair);
}
article input {
  width: 14px;
  height: 14px;
  margin: 2px 0 0;
}
.title .soft {
  margin-left: 6px;
}
.title b {
  font-weight: 500;
}
.values {
  font-size: 12px;
  line-height: 1.5;
  overflow-wrap: anywhere;
}
.values s {
  color: var(--soft);
  text-decoration-thickness: 1px;
}
.groups span {
  display: block;
}
.more {
  border: 0;
  background: none;
  color: var(--tide);
  padding: 2px 0;
  cursor: pointer;
}
.misfits {
  font-size: 12px;
  color: var(--soft);
  overflow-wrap: anywhere;
}
.gap {
  flex: 1;
}
</style>
