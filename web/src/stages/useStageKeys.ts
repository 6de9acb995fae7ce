import { isTyping, useWindowKey } from '../keys/useWindowKey'

/**
 * Keys of what is done by hand on the stage: they go before those of the bench while its bar is there. `Ctrl z` stands
 * for the letter with Ctrl or ⌘; letters are small ones.
 */
export function useStageKeys(acts: Readonly<Record<string, () => unknown>>): void {
  useWindowKey(
    (event) => {
      if (isTyping(event) || event.altKey) return
      const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
      const act = acts[event.ctrlKey || event.metaKey ? `Ctrl ${key}` : key]
      if (!act) return
      act()
      event.preventDefault()
      event.stopImmediatePropagation()
    },
    { first: true },
  )
}
