<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { Finding, GiveWaivers } from '@stern-gate/contract'
import { useWaivers } from '../../stores/waivers'

// Accepts a finding, or several: why, until when, and how far it reaches
const props = defineProps<{
  asset: { id: string; class: string; classTitle: string }
  findings: readonly Finding[]
}>()
const emit = defineEmits<{ close: []; given: [] }>()
const waivers = useWaivers()
const reason = ref('')
const until = ref('')
const reach = ref<'finding' | 'asset' | 'class' | 'files'>('finding')
const glob = ref('')
const field = ref<HTMLTextAreaElement | null>(null)
onMounted(() => field.value?.focus())
const rule = computed(() => props.findings[0]!.rule)
const oneRule = computed(() => props.findings.every((f) => f.rule === rule.value))
const reaches = computed(() => [
  {
    value: 'finding',
    text: props.findings.length === 1 ? 'this finding' : `these ${props.findings.length} findings`,
  },
  ...(oneRule.value
    ? [
        { value: 'asset', text: `all of ${rule.value} on this asset` },
        { value: 'class', text: `all of ${rule.value} on every ${props.asset.classTitle.toLowerCase()}` },
        { value: 'files', text: `all of ${rule.value} where the path fits …` },
      ]
    : []),
])
const today = new Date().toISOString().slice(0, 10)
const isReady = computed(
  () => reason.value.trim() !== '' && (reach.value !== 'files' || glob.value.trim() !== ''),
)
async function give(): Promise<void> {
  if (!isReady.value) return
  const common = { reason: reason.value.trim(), until: until.value === '' ? null : until.value }
  const body: GiveWaivers =
    reach.value === 'finding'
      ? {
          ...common,
          findings: props.findings.map((f) => ({ asset: props.asset.id, fingerprint: f.fingerprint })),
        }
      : {
          ...common,
          rule: rule.value,
          scope:
            reach.value === 'asset'
              ? { kind: 'asset', asset: props.asset.id }
              : reach.value === 'class'
                ? { kind: 'class', class: props.asset.class }
                : { kind: 'files', glob: glob.value.trim() },
        }
  if (await waivers.give(body)) {
    emit('given')
    emit('close')
  }
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <form class="box" role="dialog" aria-label="Accept a finding" @submit.prevent="give">
      <h2>Accept</h2>
      <p class="soft said">{{ findings[0]!.text }}</p>
      <label
        >Why
        <textarea ref="field" v-model="reason" rows="2" maxlength="500" required data-waiver-reason />
      </label>
      <div class="two">
        <label
          >Until <input v-model="until" type="date" :min="today" data-waiver-until /><small class="soft"
            >empty: without end</small
          ></label
        >
        <label
          >Reaches
          <select v-model="reach" data-waiver-reach>
            <option v-for="r in reaches" :key="r.value" :value="r.value">{{ r.text }}</option>
          </select>
        </label>
      </div>
      <label v-if="reach === 'files'"
        >Path <input v-model="glob" class="mono" placeholder="props/old/**" maxlength="300"
      /></label>
      <p class="soft">
        It falls by itself when its day is past<template v-if="reach === 'finding'"
          >, or when the measured value gets worse than it is now</template
        >.
      </p>
      <footer>
        <button type="button" class="btn" @click="emit('close')">Leave it</button>
        <button class="btn go" :disabled="!isReady || waivers.busy" data-waiver-give>Accept</button>
      </footer>
    </form>
  </div>
</template>

<style scoped src="../dialog.css"></style>
<style scoped src="./waiverForm.css"></style>
