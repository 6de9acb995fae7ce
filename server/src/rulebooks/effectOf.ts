import { counts, type Effect, type Finding, type Rulebook, type Verdict } from '@stern-gate/contract'
import { rulebookDifferences } from '@stern-gate/core'
import { judgeIn } from '../judging/assetContext'
import { eachSubject, type Library } from './libraryRoom'

/** So many of the assets that change are named. */
const NAMED = 60

/** What of a judgement a person sees. */
interface Seen {
  name: string
  verdict: Verdict
  /** Findings by identity: the rule, and level and words as one text. */
  findings: ReadonlyMap<string, { rule: string; says: string }>
}

/** Judgements of the rulebook in force, kept until it or an asset changes. */
const judgedNow = new WeakMap<Rulebook, Map<string, { stamp: string; seen: Seen }>>()

/** What a draft would change, and the assets whose judgement would be another. */
export async function effectOf(
  library: Library,
  draft: Rulebook,
): Promise<{ effect: Effect; changed: string[] }> {
  const began = performance.now()
  const now = await seenNow(library)
  const all: (Effect['changed'][number] & { weight: number })[] = []
  const changed: string[] = []
  const sums = { held: 0, clear: 0, more: 0, fewer: 0, other: 0 }
  await eachSubject(library, draft, (subject, { asset }) => {
    const was = now.get(asset.id)!.seen,
      then = seenOf(subject.name, judgeIn(library.context, asset.id, subject))
    const gained = rulesOnlyIn(then, was),
      lost = rulesOnlyIn(was, then)
    if (gained.length + lost.length === 0 && was.verdict === then.verdict && was.name === then.name) return
    changed.push(asset.id)
    if (was.verdict !== then.verdict) sums[then.verdict === 'held' ? 'held' : 'clear']++
    else if (then.findings.size > was.findings.size) sums.more++
    else if (then.findings.size < was.findings.size) sums.fewer++
    else sums.other++
    all.push({
      id: asset.id,
      name: then.name,
      was: was.verdict,
      now: then.verdict,
      words: wordsOf(gained, lost),
      weight: was.verdict === then.verdict ? 1 : 0,
    })
  })
  all.sort((a, b) => a.weight - b.weight || (a.name < b.name ? -1 : 1))
  return {
    changed,
    effect: {
      assets: library.assets.length,
      milliseconds: performance.now() - began,
      ...sums,
      changed: all.slice(0, NAMED).map(({ weight: _, ...one }) => one),
      differences: rulebookDifferences(library.context.rulebook, draft),
    },
  }
}

/** How every asset is judged by the rulebook in force. */
async function seenNow(library: Library): Promise<ReadonlyMap<string, { stamp: string; seen: Seen }>> {
  const { rulebook } = library.context
  const known = judgedNow.get(rulebook) ?? new Map<string, { stamp: string; seen: Seen }>()
  judgedNow.set(rulebook, known)
  const missing = library.assets.filter((a) => known.get(a.asset.id)?.stamp !== a.stamp)
  await eachSubject({ ...library, assets: missing }, rulebook, (subject, { asset, stamp }) => {
    known.set(asset.id, {
      stamp,
      seen: seenOf(subject.name, judgeIn(library.context, asset.id, subject)),
    })
  })
  return known
}

/** New names that are offered are left out: they depend on what was judged before. */
const seenOf = (
  name: string,
  { findings, verdict }: { findings: readonly Finding[]; verdict: Verdict },
): Seen => ({
  name,
  verdict,
  findings: new Map(
    findings.map((f) => [
      f.fingerprint,
      { rule: f.rule, says: `${counts(f) ? f.level : 'waived'} ${f.text}` },
    ]),
  ),
})

/** Rules of findings that one has and the other has not, or says otherwise. */
const rulesOnlyIn = (one: Seen, other: Seen): string[] =>
  [...one.findings].flatMap(([id, { rule, says }]) => (other.findings.get(id)?.says === says ? [] : [rule]))

const wordsOf = (gained: readonly string[], lost: readonly string[]): string => {
  const first = (rules: readonly string[]): string => [...new Set(rules)].slice(0, 3).join(', ')
  return [
    ...(gained.length > 0 ? [`gets ${first(gained)}`] : []),
    ...(lost.length > 0 ? [`loses ${first(lost)}`] : []),
  ].join('; ')
}
