<script setup lang="ts">
import { ref } from 'vue'

// A colour by picker, by hex, or picked from what is on the screen where the browser can
const props = defineProps<{
  label: string
  name: string
  value: string
  own: boolean
  locked: boolean
  follows: string
}>()
const emit = defineEmits<{ try: [string]; keep: []; reset: [] }>()
interface Dropper {
  open: () => Promise<{ sRGBHex: string }>
}
const makeDropper = (window as { EyeDropper?: new () => Dropper }).EyeDropper
const wrong = ref(false)

function take(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim()
  const hex = /^#?([0-9a-f]{6}|[0-9a-f]{3})$/i.exec(text)?.[1]
  wrong.value = hex === undefined
  if (hex === undefined) return
  const full = hex.length === 3 ? [...hex].map((c) => c + c).join('') : hex
  if (`#${full.toLowerCase()}` === props.value) return
  emit('try', `#${full.toLowerCase()}`)
  emit('keep')
}
async function pick(): Promise<void> {
  // Closed without a choice: it stays as it is
  const picked = await new makeDropper!().open().catch(() => null)
  if (!picked) return
  emit('try', picked.sRGBHex)
  emit('keep')
}
</script>

<template>
  <div class="row" :class="{ own, wrong }" :data-value="name">
    <span
      class="label"
      :title="`${own ? 'Set here' : follows}. Double click: ${follows}`"
      @dblclick="!locked && emit('reset')"
      >{{ label }}</span
    >
    <button
      v-if="makeDropper"
      class="drop"
      :disabled="locked"
      :aria-label="`${label}: pick from the screen`"
      title="Pick from the screen"
      @click="pick"
    >
      <svg viewBox="0 0 14 14" width="13" height="13" aria-hidden="true">
        <path
          d="M7 1.5c2.2 3 3.7 5 3.7 7a3.7 3.7 0 0 1-7.4 0c0-2 1.5-4 3.7-7z"
          fill="none"
          stroke="currentColor"
        />
        <path d="M5 8.6a2 2 0 0 0 2 2" fill="none" stroke="currentColor" />
      </svg>
    </button>
    <input
      type="color"
      :value="value"
      :aria-label="`${label}: choose`"
      :disabled="locked"
      @input="emit('try', ($event.target as HTMLInputElement).value)"
      @change="emit('keep')"
    />
    <input
      class="field mono"
      :value="value"
      :aria-label="label"
      :aria-invalid="wrong"
      :disabled="locked"
      @keydown.enter.stop="take"
      @change="take"
    />
  </div>
</template>

<style scoped src="./valueRow.css" />
<style scoped>
.row {
  grid-template-columns: minmax(0, 1fr) auto 26px 74px 12px;
}
.drop {
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
  padding: 0 3px;
}
input[type='color'] {
  width: 26px;
  height: 19px;
  padding: 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: none;
}
</style>
