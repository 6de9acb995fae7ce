import { formatCount } from '@stern-gate/core/numbers'
import { optionsOfOffer, type Finding, type RemedyOffer } from '@stern-gate/contract'

/** Findings that are shown together: of one rule and level, or one alone. */
export interface Bundle {
  key: string
  findings: Finding[]
}

/** So many of one rule make a bundle: two stand side by side as they are. */
const LEAST = 3

/** Findings in their order, those of one rule and level together where there are three or more. */
export function bundlesOf(findings: readonly Finding[]): Bundle[] {
  const alike = new Map<string, Finding[]>(),
    bundles: Bundle[] = []
  for (const f of findings) {
    const key = `${f.rule} ${f.level}`
    alike.set(key, [...(alike.get(key) ?? []), f])
  }
  for (const [key, group] of alike)
    bundles.push(
      ...(group.length >= LEAST
        ? [{ key, findings: group }]
        : group.map((f) => ({ key: f.fingerprint, findings: [f] }))),
    )
  return bundles
}

/** One act for a whole bundle: the steps it adds, and its words. */
export interface BundleAct {
  offers: RemedyOffer[]
  label: string
}

/**
 * Remedies that, asked for everywhere, still touch only what has their fault: one step of theirs does for
 * many nodes what a step for each would.
 */
export const wholesale: ReadonlySet<string> = new Set([
  'scale/bake-transform',
  'mesh/drop-degenerate',
  'mesh/drop-crumbs',
  'mesh/drop-duplicates',
  'mesh/fill-holes',
  'mesh/reorder',
  'mesh/turn-facing',
])
/** From so many steps on one for all is better: a rope of them could not be read. */
const MANY_STEPS = 6

/**
 * What the findings of a bundle have in common to be done; null when that is nothing, or when one button of
 * theirs does it. `room` is how many steps the recipe still takes.
 */
export function actOf(findings: readonly Finding[], room: number): BundleAct | null {
  const first = findings
      .flatMap((f) => f.remedies.slice(0, 1))
      .flatMap((o) => optionsOfOffer(o).map((options) => ({ ...o, options, also: [] }))),
    remedy = first[0]?.remedy
  const own = first.filter((o) => o.remedy === remedy)
  const all = [...new Map(own.map((o) => [JSON.stringify(o.options), o])).values()].sort(deepestFirst)
  // A finding of alike nodes has several places, and an offer for each
  const places = findings.reduce((sum, f) => sum + 1 + f.also.length, 0),
    word = places > findings.length ? ' places' : ''
  const labelOf = (count: number, labels: readonly RemedyOffer[]): string => {
    const isAll = findings.every((f) => f.remedies[0]?.remedy === remedy) && count === own.length
    const which = isAll ? `All ${formatCount(count)}` : `${formatCount(count)} of ${formatCount(places)}`
    return `${which}${word}: ${commonWords(labels.map((o) => o.label))}`
  }
  if (all.length >= MANY_STEPS && room > 0 && isWholesale(all))
    return {
      offers: [{ ...all[0]!, options: { ...all[0]!.options, node: null } }],
      label: labelOf(all.length, all),
    }
  const offers = all.slice(0, room)
  return offers.length < 2 ? null : { offers, label: labelOf(offers.length, offers) }
}

/** Alike but for their nodes. */
function isWholesale(offers: readonly RemedyOffer[]): boolean {
  const others = offers.map(({ options }) => JSON.stringify({ ...options, node: null }))
  return (
    wholesale.has(offers[0]!.remedy) &&
    offers.every((o) => typeof o.options['node'] === 'string') &&
    new Set(others).size === 1
  )
}

/** A node's path changes with its parents' names: what lies deeper goes first. */
const deepestFirst = (a: RemedyOffer, b: RemedyOffer): number => depth(b) - depth(a)
const depth = ({ options }: RemedyOffer): number => String(options['name'] ?? '').split('/').length

/** What labels begin with alike, in whole words. */
function commonWords(labels: readonly string[]): string {
  const [first, ...others] = labels.map((l) => l.split(' '))
  let same = 0
  while (same < first!.length && others.every((o) => o[same] === first![same])) same++
  return same === first!.length ? labels[0]! : `${first!.slice(0, Math.max(1, same)).join(' ')} …`
}

/** So many cards are listed at a time: thousands of them would stop the page. */
export const MOST_LISTED = 60

/** What of a bundle is listed when it is open: the first ones, or those around the chosen one. */
export function listedOf(findings: readonly Finding[], chosen: Finding | null): Finding[] {
  const at = chosen ? findings.indexOf(chosen) : -1
  const from = Math.max(0, Math.min(at - MOST_LISTED / 2, findings.length - MOST_LISTED))
  return findings.slice(from, from + MOST_LISTED)
}
