import { stations, type Finding, type Level, type RemedyOptions, type Tally, type Rulebook, type Station, type Verdict } from '@stern-gate/contract'
import type { RawFinding, Rule } from '../rules/defineRule'
import { canRewrite } from '../read/canRewrite'
import { rules as allRules } from '../rules/index'
import type { Subject } from '../rules/subject'
import { fillMessage } from './fillMessage'
import { fingerprint } from './fingerprint'

export interface Judgement { findings: Finding[]; tally: Tally; verdict: Verdict }

const stationOrder = Object.fromEntries(stations.map((s, i) => [s, i])) as Record<Station, number>
const gravity: Record<Level, number> = { stop: 0, caution: 1, note: 2 }

/** Runs the rules over one subject with the project's settings; pure and quick. Findings come by station, gravest first. */
export function judge(subject: Subject, rules: readonly Rule[] = allRules): Judgement {
  const active = activeRules(subject, rules)
  const findings: Finding[] = []
  for (const { rule, options } of active) for (const raw of rule.judge(subject, options)) findings.push(finish(rule, raw, subject))
  findings.sort((a, b) => stationOrder[a.station] - stationOrder[b.station] || gravity[a.level] - gravity[b.level])
  return { findings, tally: tallyOf(findings, active), verdict: findings.some((f) => f.level === 'stop') ? 'held' : 'clear' }
}

interface ActiveRule { rule: Rule; options: unknown }

/** Rules that look at this kind of asset, each with the project's options over its defaults; the rulebook was checked at its door (see checkRulebook). */
function activeRules(subject: Subject, rules: readonly Rule[]): readonly ActiveRule[] {
  const { rulebook, kind } = subject
  const lists = settled.get(rulebook) ?? new Map<string, { of: readonly Rule[]; active: ActiveRule[] }>()
  settled.set(rulebook, lists)
  const known = lists.get(kind)
  if (known?.of === rules) return known.active
  const active = rules.filter((rule) => rule.meta.kinds.includes(kind) && rulebook.rules[rule.id]?.enabled !== false)
    .map((rule) => ({ rule, options: rule.options.parse(rulebook.rules[rule.id]?.options ?? {}) as unknown }))
  lists.set(kind, { of: rules, active })
  return active
}

/** By rulebook and kind: judging a library asks for the same ones ten thousand times. A rulebook is never edited in place. */
const settled = new WeakMap<Rulebook, Map<string, { of: readonly Rule[]; active: ActiveRule[] }>>()

function finish(rule: Rule, raw: RawFinding, subject: Subject): Finding {
  const message = rule.messages[raw.message]!
  const own = typeof message === 'string' ? null : message.level
  return {
    rule: rule.id,
    station: rule.station,
    level: subject.rulebook.rules[rule.id]?.level ?? own ?? rule.meta.level,
    message: raw.message,
    text: fillMessage(typeof message === 'string' ? message : message.text, raw.data),
    data: raw.data,
    place: raw.place,
    gauge: raw.gauge ?? null,
    remedies: (raw.remedies ?? []).filter((r) => canApply(r, subject)).map((r) => ({ remedy: r.remedy, options: r.options, label: fillMessage(rule.labels[r.label]!, { ...raw.data, ...withoutNulls(r.options) }) })),
    fingerprint: fingerprint(rule.id, subject.name, raw.message, raw.place, raw.measure),
  }
}

/** Steps that change texels are offered only where texels can be written anew. */
function canApply({ remedy, options }: { remedy: string; options: RemedyOptions }, subject: Subject): boolean {
  if (!/^(colour|compression)\//.test(remedy)) return true
  const header = subject.textures.find((t) => t.name === options['texture'])?.facts?.header
  return !header || canRewrite(header)
}

const withoutNulls = (options: Record<string, string | number | boolean | null>): Record<string, string | number | boolean> =>
  Object.fromEntries(Object.entries(options).flatMap(([k, v]) => (v === null ? [] : [[k, v]])))

/** Stations that rules look at, by the list of rules, which stays the same for a library. */
const looked = new WeakMap<readonly ActiveRule[], ReadonlySet<Station>>()

function lookedAt(active: readonly ActiveRule[]): ReadonlySet<Station> {
  const known = looked.get(active) ?? new Set(active.map(({ rule }) => rule.station))
  looked.set(active, known)
  return known
}

function tallyOf(findings: readonly Finding[], active: readonly ActiveRule[]): Tally {
  const tally = {} as Tally
  for (const station of stations) tally[station] = { state: lookedAt(active).has(station) ? 'clear' : 'none', count: 0 }
  for (const { station, level } of findings) {
    const own = tally[station]
    own.count++
    if (own.state === 'clear' || own.state === 'none' || gravity[level] < gravity[own.state]) own.state = level
  }
  return tally
}
