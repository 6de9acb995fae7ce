<script setup lang="ts">
import { computed, onMounted, ref, shallowRef } from 'vue'
import type { RulebookReply } from '@stern-gate/contract'
import { getRulebook } from '../../api/client'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'
import { useWaivers } from '../../stores/waivers'

// Accepts what one rule says of many assets, as one act
const props = defineProps<{ assets: readonly string[] }>()
const emit = defineEmits<{ close: [] }>()
const project = useProject()
const waivers = useWaivers()
const faults = useFaults()
const reply = shallowRef<RulebookReply | null>(null)
const rule = ref('')
const reason = ref('')
const until = ref('')
const today = new Date().toISOString().slice(0, 10)
onMounted(async () => {
  try {
    reply.value = await getRulebook(project.openId!)
    rule.value = rules.value[0]?.id ?? ''
  } catch (error) {
    faults.put(error)
    emit('close')
  }
})
/** Rules that say something in this project, those first that say it of most. */
const rules = computed(() => {
  const found = reply.value?.found ?? {}
  return (reply.value?.rules ?? [])
    .filter((r) => (found[r.id] ?? 0) > 0)
    .sort((a, b) => found[b.id]! - found[a.id]!)
})
async function give(): Promise<void> {
  const done = await waivers.give({
    assets: [...props.assets],
    rule: rule.value,
    reason: reason.value.trim(),
    until: until.value === '' ? null : until.value,
  })
  if (done) emit('close')
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <form class="box" role="dialog" aria-label="Accept for many" @submit.prevent="give">
      <h2>Accept on {{ assets.length }} {{ assets.length === 1 ? 'asset' : 'assets' }}</h2>
      <label
        >What
        <select v-model="rule" data-waive-rule>
          <option v-for="r in rules" :key="r.id" :value="r.id">{{ r.id }} · {{ r.title }}</option>
        </select>
      </label>
      <label>Why <textarea v-model="reason" rows="2" maxlength="500" required data-waiver-reason /></label>
      <label
        >Until <input v-model="until" type="date" :min="today" /><small class="soft"
          >empty: without end</small
        ></label
      >
      <p class="soft">
        Each finding is accepted as it is now, and falls by itself when its value gets worse.
      </p>
      <footer>
        <button type="button" class="btn" @click="emit('close')">Leave it</button>
        <button
          class="btn go"
          :disabled="reason.trim() === '' || rule === '' || waivers.busy"
          data-waiver-give
        >
          Accept
        </button>
      </footer>
    </form>
  </div>
</template>

<style scoped src="../dialog.css"></style>
<style scoped src="./waiverForm.css"></style>
