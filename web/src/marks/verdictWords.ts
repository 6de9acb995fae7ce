import type { Verdict, VersionState } from '@stern-gate/contract'
import type { LevelState } from './levelShapes'

/** What a list says of an asset: its verdict where it has one, else what it waits for. */
export type ShownVerdict = Verdict | 'unjudged' | 'failed'

export const shownVerdict = (row: { state: VersionState; verdict: Verdict | null }): ShownVerdict =>
  row.state === 'judged' && row.verdict !== null
    ? row.verdict
    : row.state === 'failed'
      ? 'failed'
      : 'unjudged'

export const verdictWords: Record<ShownVerdict, string> = {
  held: 'Held',
  clear: 'Clear',
  unjudged: 'Being judged',
  failed: 'Not judged',
}

export const verdictShapes: Record<ShownVerdict, LevelState> = {
  held: 'stop',
  clear: 'clear',
  unjudged: 'waiting',
  failed: 'stop',
}
