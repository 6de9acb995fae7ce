import { countOf } from '@stern-gate/core/numbers'
import { onUnmounted, ref, shallowRef, watch, type Ref } from 'vue'
import type { Effect, Proposal } from '@stern-gate/contract'
import { useRulebook } from '../../stores/rulebook'

/** How long after a choice the chosen ones are asked for together. */
const PAUSE_MS = 250

/** What a draft would do to verdicts, in a few words. */
export function verdictWords({ clear, held, more, fewer, other }: Effect): string {
  const verdicts = [
    ...(clear > 0 ? [`${countOf(clear, 'asset')} ${clear === 1 ? 'becomes' : 'become'} clear`] : []),
    ...(held > 0 ? [`${countOf(held, 'asset')} ${held === 1 ? 'becomes' : 'become'} held`] : []),
  ]
  if (verdicts.length > 0) return verdicts.join(', ')
  if (fewer + more + other === 0) return 'changes nothing that is judged'
  return [
    'no verdict changes',
    ...(fewer > 0 ? [`${countOf(fewer, 'asset')} with fewer findings`] : []),
    ...(more > 0 ? [`${countOf(more, 'asset')} with more`] : []),
    ...(other > 0 ? [`${countOf(other, 'asset')} with other findings`] : []),
  ].join(', ')
}

/**
 * What verdicts would be with each proposal by itself, asked for one after the other, and with all that are chosen.
 * What could not be told has no entry. Ends with the component.
 */
export function useProposalEffects(proposals: Ref<readonly Proposal[]>, chosen: Ref<ReadonlySet<string>>) {
  const book = useRulebook()
  const alone = ref(new Map<string, string>()),
    together = shallowRef<string | null>(null)
  let run = new AbortController(),
    choice = new AbortController(),
    pause: ReturnType<typeof setTimeout> | undefined
  const wordsOf = async (some: readonly Proposal[], signal: AbortSignal): Promise<string | null> => {
    const effect = await book.effectOf(some, signal)
    return effect && !signal.aborted ? verdictWords(effect) : null
  }
  watch(
    proposals,
    async (all) => {
      run.abort()
      const { signal } = (run = new AbortController())
      alone.value = new Map()
      for (const proposal of all) {
        const words = await wordsOf([proposal], signal)
        if (signal.aborted) return
        if (words) alone.value.set(proposal.id, words)
      }
    },
    { immediate: true },
  )
  watch(
    [proposals, chosen],
    ([all, ids]) => {
      choice.abort()
      clearTimeout(pause)
      together.value = null
      const some = all.filter((p) => ids.has(p.id))
      if (some.length === 0) return
      const { signal } = (choice = new AbortController())
      pause = setTimeout(() => {
        void wordsOf(some, signal).then((words) => {
          if (!signal.aborted) together.value = words
        })
      }, PAUSE_MS)
    },
    { immediate: true },
  )
  onUnmounted(() => {
    run.abort()
    choice.abort()
    clearTimeout(pause)
  })
  return { alone, together }
}
