import { expect, it } from 'vitest'
import type { Effect } from '@stern-gate/contract'
import { verdictWords } from './useProposalEffects'

const effect = (more: Partial<Effect>): Effect => ({
  ...{
    assets: 60,
    milliseconds: 1,
    held: 0,
    clear: 0,
    more: 0,
    fewer: 0,
    other: 0,
    changed: [],
    differences: [],
  },
  ...more,
})

it.each([
  [{ clear: 12, held: 1 }, '12 assets become clear, 1 asset becomes held'],
  [{ clear: 1, more: 3 }, '1 asset becomes clear'],
  [{ fewer: 4 }, 'no verdict changes, 4 assets with fewer findings'],
  [{ fewer: 1, more: 2 }, 'no verdict changes, 1 asset with fewer findings, 2 assets with more'],
  [{ fewer: 1, other: 5 }, 'no verdict changes, 1 asset with fewer findings, 5 assets with other findings'],
  [{}, 'changes nothing that is judged'],
])('a proposal is told by the verdicts that it changes: %o', (more, words) => {
  expect(verdictWords(effect(more))).toBe(words)
})
