<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRulebook } from '../../stores/rulebook'
import { whenText } from '../../words/formats'

// Every revision with what it changed, and the way back to any
const emit = defineEmits<{ close: [] }>()
const book = useRulebook()
const box = ref<HTMLElement | null>(null)
onMounted(() => {
  box.value?.focus()
  void book.readRevisions()
})
async function back(number: number): Promise<void> {
  await book.returnTo(number)
  emit('close')
}
</script>

<template>
  <div class="veil" @click.self="emit('close')" @keydown.esc.stop="emit('close')">
    <section ref="box" class="box" role="dialog" aria-label="Revisions" tabindex="-1">
      <header>
        <h2>Revisions</h2>
        <span class="gap" /><button class="btn" aria-label="Close" @click="emit('close')">×</button>
      </header>
      <ol>
        <li v-for="r in book.revisions" :key="r.number">
          <b class="mono">{{ r.number }}</b>
          <div>
            <p>
              <span class="note">{{ r.note || 'without a note' }}</span>
              <span class="soft"> {{ r.author }}, {{ whenText(r.created) }}</span>
            </p>
            <p v-for="c in r.changes.slice(0, 6)" :key="c" class="soft change">{{ c }}</p>
            <p v-if="r.changes.length > 6" class="soft">and {{ r.changes.length - 6 }} more</p>
          </div>
          <span v-if="r.number === book.reply?.revision" class="soft">in force</span>
          <button v-else class="btn" :data-back="r.number" @click="back(r.number)">Return to it</button>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped src="../dialog.css"></style>
<style scoped>
.box {
  width: min(720px, 94vw);
  max-height: 84vh;
  display: flex;
  flex-direction: column;
}
header {
  display: flex;
  align-items: center;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
}
h2 {
  font: 600 15px var(--text);
}
.gap {
  flex: 1;
}
ol {
  list-style: none;
  padding: 0 16px 12px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  gap: 8px;
  padding: 9px 0;
  border-bottom: 1px solid var(--hair);
  align-items: start;
}
.note {
  font-weight: 500;
}
.change {
  font-size: 12px;
  overflow-wrap: anywhere;
}
</style>
