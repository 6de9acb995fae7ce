<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import type { FileOrigin, Origin } from '@stern-gate/contract'
import { setOrigin } from '../../api/client'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'

// Where assets came from, and by which terms they may be used; what the file says of itself is proposed
const props = defineProps<{ assets: readonly string[]; given: Origin | null; said: FileOrigin | null }>()
const emit = defineEmits<{ close: []; saved: [] }>()
const project = useProject()
const faults = useFaults()
const first = ref<HTMLSelectElement | null>(null)
const busy = ref(false)
const form = ref<Origin>({
  source: props.given?.source ?? props.said?.source ?? '',
  author: props.given?.author ?? (props.said?.author || props.said?.copyright) ?? '',
  terms: props.given?.terms ?? '',
  link: props.given?.link ?? props.said?.link ?? '',
})
onMounted(() => first.value?.focus())
const proposed = computed(() => props.given === null && props.said !== null)
async function save(origin: Origin | null): Promise<void> {
  if (busy.value || project.openId === null) return
  busy.value = true
  try {
    await setOrigin(project.openId, { assets: [...props.assets], origin })
    emit('saved')
    emit('close')
  } catch (error) {
    faults.put(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <form class="box" role="dialog" aria-label="Origin" @submit.prevent="save(form)">
      <h2>Where {{ assets.length === 1 ? 'it' : `these ${assets.length} assets` }} came from</h2>
      <p v-if="proposed" class="soft">
        The file says of itself:
        {{ [said!.copyright, said!.author, said!.terms, said!.source].filter(Boolean).join('; ') }}.
      </p>
      <label
        >Terms
        <select ref="first" v-model="form.terms" data-origin-terms>
          <option value="">not known</option>
          <option v-for="t in project.open?.terms ?? []" :key="t.id" :value="t.id">{{ t.title }}</option>
        </select></label
      >
      <label>Author <input v-model="form.author" maxlength="400" data-origin-author /></label>
      <label>Source <input v-model="form.source" maxlength="400" /></label>
      <label>Link <input v-model="form.link" maxlength="600" type="url" placeholder="https://" /></label>
      <footer>
        <button v-if="given" type="button" class="btn" :disabled="busy" @click="save(null)">
          Take it out
        </button>
        <span class="gap" />
        <button type="button" class="btn" @click="emit('close')">Leave it</button>
        <button class="btn go" :disabled="busy" data-origin-save>Save</button>
      </footer>
    </form>
  </div>
</template>

<style scoped src="../dialog.css"></style>
<style scoped src="../waivers/waiverForm.css"></style>
<style scoped>
.gap {
  flex: 1;
}
</style>
