import { ref, watchEffect, type Ref } from 'vue'

const KEY = 'stern-gate-night'
const stored = localStorage.getItem(KEY)
const night = ref(stored === null ? matchMedia('(prefers-color-scheme: dark)').matches : stored === 'yes')

watchEffect(() => {
  document.documentElement.classList.toggle('night', night.value)
  localStorage.setItem(KEY, night.value ? 'yes' : 'no')
})

/** Day or night; remembered in the browser. */
export const useNight = (): Ref<boolean> => night
