<script setup lang="ts">
import { computed, ref } from 'vue'
import { CHANNEL_ORDER } from '@stern-gate/contract'
import { letterWord } from '@stern-gate/core/layouts'
import { useRulebook } from '../../stores/rulebook'

// Orders in which packed channels come, and the words of names that say so
const book = useRulebook()
const fresh = ref('')
const orders = computed(() => Object.entries(book.draft?.layouts ?? {}))
const order = computed(() => fresh.value.trim().toLowerCase())
const trouble = computed(() =>
  order.value === ''
    ? ''
    : !CHANNEL_ORDER.test(order.value)
      ? 'three or four of o, a, r, g, s, m, h, x'
      : order.value in (book.draft?.layouts ?? {})
        ? 'is in the list'
        : '',
)
const spelt = (of: string): string => [...of].map(letterWord).join(' · ')
const take = (of: string, text: string): void =>
  book.set(
    ['layouts', of, 'words'],
    [...new Set(text.toLowerCase().split(/[\s,]+/))].filter((w) => w !== ''),
  )
function add(): void {
  if (order.value === '' || trouble.value !== '') return
  book.set(['layouts', order.value], { words: [] })
  fresh.value = ''
}
</script>

<template>
  <section data-layouts>
    <h2>Packed channels</h2>
    <p class="soft">
      Orders in red, green, blue and alpha that maps come in. A name may say one by its letters –
      <span class="mono">crate_mro</span> –, or by a word that stands here. Orders that are not here are held
      for unlikely when pixels are looked at; gloss cannot be told from roughness by pixels.
    </p>
    <div v-for="[of, { words }] in orders" :key="of" class="layout" :data-layout="of">
      <b class="mono">{{ of }}</b><span class="soft">{{ spelt(of) }}</span
      ><input
        class="field mono"
        :value="words.join(' ')"
        :aria-label="`Words for ${of}`"
        placeholder="words of names"
        spellcheck="false"
        @change="take(of, ($event.target as HTMLInputElement).value)"
      /><button
        v-if="of !== 'orm'"
        class="drop"
        :aria-label="`Take ${of} out`"
        :title="`Take ${of} out`"
        @click="book.set(['layouts', of], undefined)"
      >
        ×
      </button>
    </div>
    <form @submit.prevent="add">
      <input
        v-model="fresh"
        class="field mono"
        placeholder="mgo"
        aria-label="Letters of a new order"
        maxlength="4"
        spellcheck="false"
      /><button class="btn" :disabled="order === '' || trouble !== ''">Add an order</button
      ><small class="soft">{{ trouble || spelt(order) }}</small>
    </form>
  </section>
</template>

<style scoped>
section {
  margin-top: 22px;
}
h2 {
  font: 600 13.5px/1.4 var(--text);
}
p {
  max-width: 78ch;
  margin: 2px 0 8px;
}
.layout {
  display: grid;
  grid-template-columns: 110px 260px minmax(0, 1fr) 24px;
  gap: 10px;
  align-items: center;
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
.field {
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--sheet);
  padding: 4px 7px;
  font-size: 12px;
}
.drop {
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
}
form {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-top: 8px;
}
form .field {
  width: 100px;
}
</style>
