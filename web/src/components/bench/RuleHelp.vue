<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { marked } from 'marked'
import { getRulePage } from '../../api/client'
import { useWindowKey } from '../../keys/useWindowKey'

// The page of a rule, as it stands in docs/rules
const props = defineProps<{ rule: string }>()
const emit = defineEmits<{ close: [] }>()
const html = ref('')
const box = ref<HTMLElement | null>(null)
onMounted(async () => {
  box.value?.focus()
  const page = await getRulePage(props.rule).catch((error: unknown) => ({
    text: `# ${props.rule}\n\n${error instanceof Error ? error.message : ''}`,
  }))
  html.value = await marked.parse(page.text.replace(/^<!--.*?-->\s*/s, ''))
})
useWindowKey((event) => {
  if (event.key === 'Escape') emit('close')
})
</script>

<template>
  <div class="veil" @click.self="emit('close')">
    <!-- eslint-disable-next-line vue/no-v-html -- our own page, generated from the rule -->
    <section ref="box" class="box" role="dialog" :aria-label="`About ${rule}`" tabindex="-1">
      <div class="page" v-html="html" />
      <button class="btn" @click="emit('close')">Close</button>
    </section>
  </div>
</template>

<style scoped src="../dialog.css" />
<style scoped>
.box {
  padding: 18px 24px;
  width: 680px;
  max-height: 84vh;
  overflow: auto;
}
.page :deep(h1) {
  font: 600 16px/1.3 var(--mono);
  margin-bottom: 8px;
}
.page :deep(h2) {
  font: 600 13px/1.3 var(--narrow);
  color: var(--soft);
  margin: 14px 0 5px;
}
.page :deep(p) {
  margin-bottom: 8px;
}
.page :deep(ul) {
  padding-left: 18px;
  margin-bottom: 8px;
}
.page :deep(table) {
  border-collapse: collapse;
  width: 100%;
}
.page :deep(th),
.page :deep(td) {
  text-align: left;
  border-bottom: 1px solid var(--hair);
  padding: 4px 10px 4px 0;
  vertical-align: top;
}
.page :deep(code) {
  font: 400 12px var(--mono);
}
.btn {
  margin-top: 8px;
}
</style>
