<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { RuleField, RuleInfo, SoundingReply } from '@stern-gate/contract'
import { getSounding } from '../../api/client'
import LevelShape from '../../marks/LevelShape.vue'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'
import { useRulebook } from '../../stores/rulebook'
import { levelNow, ruleStates, type RuleState } from './ruleLevels'
import SoundingChart from './SoundingChart.vue'
import { limitsIn, type ShownLimit } from './soundingScale'

// One rule: its level, its limit on what the library measures, its options
const props = defineProps<{ rule: RuleInfo }>()
const emit = defineEmits<{ look: [string[]] }>()
const book = useRulebook()
const project = useProject()
const faults = useFaults()
const className = ref<string | null>(null)
/** A draft may have other classes than the rulebook in force. */
const whatGivesClasses = computed(() =>
  JSON.stringify(Object.entries(book.draft?.classes ?? {}).map(([id, c]) => [id, c.folders, c.words])),
)
const sounding = shallowRef<SoundingReply | null>(null)
const byClass = computed(() => props.rule.sounding === 'class')
const classes = computed(() =>
  Object.entries(book.draft?.classes ?? {}).map(([id, c]) => ({ id, title: c.title })),
)
/** Limits of a class are set class by class. */
const shownClass = computed(
  () => className.value ?? (byClass.value ? (book.draft?.defaultClass ?? null) : null),
)
watch(
  () => [props.rule.id, shownClass.value, book.reply?.revision, whatGivesClasses.value] as const,
  async ([rule, of], _, over) => {
    sounding.value = null
    if (!props.rule.sounding || project.openId === null) return
    let gone = false
    over(() => (gone = true))
    try {
      const answer = await getSounding(project.openId, {
        rule,
        class: byClass.value ? of : className.value,
        ...(book.changed ? { rulebook: book.draft as unknown as Record<string, unknown> } : {}),
      })
      if (!gone) sounding.value = answer
    } catch (error) {
      // The band says what is wrong with a draft that is no rulebook
      if (!gone && !book.changed) faults.put(error)
    }
  },
  { immediate: true },
)
watch(
  () => props.rule.id,
  () => (className.value = null),
)
const limits = computed(() => limitsIn(book.draft, sounding.value?.limits ?? [], shownClass.value))
const before = computed(() => limitsIn(book.before, sounding.value?.limits ?? [], shownClass.value))
/** Limits stand in their order: one that is moved past another takes it along. */
function setLimit(limit: ShownLimit, value: number): void {
  const at = limits.value.findIndex((l) => l.path.join() === limit.path.join())
  book.set(limit.path, value)
  limits.value.forEach((other, i) => {
    if ((i < at && other.value > value) || (i > at && other.value < value)) book.set(other.path, value)
  })
}

const state = computed(() => levelNow(book.draft, props.rule, className.value))
function setState(next: RuleState): void {
  const at = ['rules', props.rule.id]
  if (className.value !== null) {
    const general = levelNow(book.draft, props.rule)
    return book.set([...at, 'levelByClass', className.value], next === general ? undefined : next)
  }
  book.set([...at, 'enabled'], next === 'off' ? false : undefined)
  if (next !== 'off') book.set([...at, 'level'], next === props.rule.level ? undefined : next)
}
const options = computed(() => book.draft?.rules[props.rule.id]?.options ?? {})
const valueOf = (f: RuleField): unknown => options.value[f.name] ?? f.default ?? ''
const isOwn = (f: RuleField): boolean => options.value[f.name] !== undefined
const setOption = (f: RuleField, value: unknown): void =>
  book.set(
    ['rules', props.rule.id, 'options', f.name],
    JSON.stringify(value) === JSON.stringify(f.default) ? undefined : value,
  )
function takeText(f: RuleField, text: string): void {
  if (f.kind === 'list')
    return setOption(
      f,
      text
        .split(',')
        .map((w) => w.trim())
        .filter((w) => w !== ''),
    )
  if (f.kind !== 'number' && f.kind !== 'whole') return setOption(f, text)
  const value = Number(text)
  if (text.trim() !== '' && Number.isFinite(value))
    setOption(f, f.kind === 'whole' ? Math.round(value) : value)
}
const label = (name: string): string => {
  const words = name.replace(/([A-Z])/g, ' $1').toLowerCase()
  return words[0]!.toUpperCase() + words.slice(1)
}
const shownText = (f: RuleField): string => {
  const value = valueOf(f)
  return Array.isArray(value) ? value.join(', ') : String(value)
}
</script>

<template>
  <section class="detail" :data-rule-detail="rule.id">
    <h1>{{ rule.title }}</h1>
    <p class="why soft">{{ rule.why }}</p>
    <div class="row">
      <div class="levels" role="radiogroup" aria-label="Level">
        <button
          v-for="s in ruleStates"
          :key="s"
          role="radio"
          :aria-checked="s === state"
          :class="{ on: s === state }"
          :data-level="s"
          @click="setState(s)"
        >
          <LevelShape v-if="s !== 'off'" :state="s" />{{ s }}
        </button>
      </div>
      <label class="soft"
        >class
        <select v-model="className" class="field" aria-label="Class">
          <option :value="null">
            {{ byClass ? (book.draft?.classes[book.draft.defaultClass]?.title ?? 'all') : 'all' }}
          </option>
          <option v-for="c in classes" :key="c.id" :value="c.id">{{ c.title }}</option>
        </select></label
      >
      <span v-if="sounding" class="soft">{{ sounding.values.length }} measured: {{ sounding.of }}</span>
    </div>
    <SoundingChart
      v-if="sounding && sounding.values.length > 0 && limits.length > 0"
      :values="sounding.values"
      :limits="limits"
      :before="before"
      :unit="sounding.unit"
      :scale="sounding.scale"
      @limit="setLimit"
      @look="emit('look', $event)"
    />
    <p v-else-if="rule.sounding && !sounding" class="soft wait">Sounding the library …</p>
    <p v-else-if="rule.sounding && sounding?.values.length === 0" class="soft wait">
      Nothing here has such a value yet; the limit can be typed below.
    </p>
    <div v-if="byClass && limits.length > 0" class="typed">
      <label v-for="l in limits" :key="l.path.join()"
        >{{ l.words }}
        <input
          class="field mono"
          type="number"
          step="any"
          min="0"
          :value="l.value"
          :data-limit-field="l.path.join('.')"
          @change="setLimit(l, Number(($event.target as HTMLInputElement).value))"
      /></label>
    </div>
    <div v-if="rule.fields.length > 0" class="options">
      <label v-for="f in rule.fields" :key="f.name" class="opt" :class="{ own: isOwn(f) }">
        <span class="name">{{ label(f.name) }}</span>
        <input
          v-if="f.kind === 'switch'"
          type="checkbox"
          :checked="valueOf(f) === true"
          :data-option="f.name"
          @change="setOption(f, ($event.target as HTMLInputElement).checked)"
        />
        <select
          v-else-if="f.kind === 'choice'"
          class="field"
          :value="valueOf(f)"
          :data-option="f.name"
          @change="setOption(f, ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="c in f.choices ?? []" :key="c" :value="c">{{ c }}</option>
        </select>
        <input
          v-else
          class="field mono"
          :type="f.kind === 'number' || f.kind === 'whole' ? 'number' : 'text'"
          step="any"
          :min="f.min"
          :max="f.max"
          :value="shownText(f)"
          :data-option="f.name"
          @change="takeText(f, ($event.target as HTMLInputElement).value)"
        />
        <small class="soft"
          >{{ f.about
          }}<template v-if="isOwn(f)">
            · at first {{ Array.isArray(f.default) ? f.default.join(', ') || 'none' : f.default }}</template
          ></small
        >
      </label>
    </div>
  </section>
</template>

<style scoped>
.detail {
  padding: 16px 18px 24px;
  overflow: auto;
  min-height: 0;
}
h1 {
  font: 600 16px/1.25 var(--text);
}
.why {
  max-width: 62ch;
  margin: 3px 0 12px;
}
.row {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-bottom: 12px;
  flex-wrap: wrap;
}
.levels {
  display: flex;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
}
.levels button {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 4px 11px;
  border: 0;
  background: none;
  font: 500 12.5px/1.3 var(--narrow);
  cursor: pointer;
}
.levels button.on {
  background: var(--tide);
  color: var(--on-tide);
}
.levels button.on :deep(svg) {
  background: var(--sheet);
  border-radius: 50%;
}
.field {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 3px 7px;
}
.wait {
  padding: 26px 0;
}
.typed {
  display: flex;
  gap: 16px;
  margin-top: 10px;
}
.typed .field {
  width: 110px;
  margin-left: 6px;
}
.options {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 12px 18px;
  margin-top: 18px;
  border-top: 1px solid var(--hair);
  padding-top: 14px;
}
.opt .field {
  width: 100%;
}
.opt .name {
  display: block;
  font: 500 12.5px/1.4 var(--narrow);
}
.opt.own .name::after {
  content: '';
  display: inline-block;
  width: 6px;
  height: 6px;
  margin-left: 6px;
  background: var(--tide);
  transform: rotate(45deg);
}
.opt small {
  display: block;
  margin-top: 2px;
  line-height: 1.3;
}
</style>
