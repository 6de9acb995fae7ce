import { onBeforeUnmount, onMounted } from 'vue'

/** Listens to keys of the whole window while the component is there; `first`: before what listens by itself. */
export function useWindowKey(handle: (event: KeyboardEvent) => void, { first = false } = {}): void {
  onMounted(() => addEventListener('keydown', handle, { capture: first }))
  onBeforeUnmount(() => removeEventListener('keydown', handle, { capture: first }))
}

/** Whether a key goes into a field; a box to tick takes none but the space bar, a slider none but arrows. */
export const isTyping = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement &&
  event.target.matches(
    'input:not([type="checkbox"], [type="radio"], [type="range"]), textarea, select, [contenteditable]',
  )
