import { onBeforeUnmount, onMounted } from 'vue'

/** Listens to keys of the whole window while the component is there. */
export function useWindowKey(handle: (event: KeyboardEvent) => void): void {
  onMounted(() => addEventListener('keydown', handle))
  onBeforeUnmount(() => removeEventListener('keydown', handle))
}

/** Whether a key goes into a field; a box to tick takes none but the space bar. */
export const isTyping = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement &&
  event.target.matches('input:not([type="checkbox"], [type="radio"]), textarea, select, [contenteditable]')
