import { stations, type Finding, type Level, type StationState, type Tally, type Rulebook, type Station, type Verdict } from '@stern-gate/contract'
import type { RawFinding, Rule } from '../rules/defineRule'
import { rules as allRules } from '../rules/index'
import type { Subject } from '../rules/subject'
import { fillMessage } from './fillMessage'
import { fingerprint } from './fingerprint'

export interface Judgement { findings: Finding[]; tally: Tally; verdict: Verdict }

const stationOrder = Object.fromEntries(stations.map((s, i) => [s, i])) as Record<Station, number>
const gravity: Record<Level, number> = { stop: 0, caution: 1, note: 2 }

/** Runs the rules over one subject with the project's settings; pure and quick. Findings come by station, gravest first. */
export function judge(subject: Subject, rules: readonly Rule[] = allRules): Judgement {
  const active = rules.filter((rule) => rule.meta.kinds.includes(subject.kind) && subject.rulebook.rules[rule.id]?.enabled !== false)
  const findings = active.flatMap((rule) => rule.judge(subject, optionsOf(rule, subject)).map((raw) => finish(rule, raw, subject)))
  findings.sort((a, b) => stationOrder[a.station] - stationOrder[b.station] || gravity[a.level] - gravity[b.level])
  return { findings, tally: tallyOf(findings, active), verdict: findings.some((f) => f.level === 'stop') ? 'held' : 'clear' }
}

/** Options of the project over the rule's defaults; the rulebook was checked at its door (see checkRulebook). */
function optionsOf(rule: Rule, subject: Subject): unknown {
  const known = parsedOptions.get(subject.rulebook) ?? new Map<string, unknown>()
  parsedOptions.set(subject.rulebook, known)
  if (!known.has(rule.id)) known.set(rule.id, rule.options.parse(subject.rulebook.rules[rule.id]?.options ?? {}))
  return known.get(rule.id)
}

/** Options by rulebook: judging a library asks for the same ones ten thousand times. A rulebook is never edited in place. */
const parsedOptions = new WeakMap<Rulebook, Map<string, unknown>>()

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
    remedies: (raw.remedies ?? []).map((r) => ({ remedy: r.remedy, options: r.options, label: fillMessage(rule.labels[r.label]!, { ...raw.data, ...withoutNulls(r.options) }) })),
    fingerprint: fingerprint(rule.id, subject.name, raw.message, raw.place, raw.measure),
  }
}

const withoutNulls = (options: Record<string, string | number | boolean | null>): Record<string, string | number | boolean> =>
  Object.fromEntries(Object.entries(options).flatMap(([k, v]) => (v === null ? [] : [[k, v]])))

function tallyOf(findings: readonly Finding[], active: readonly Rule[]): Tally {
  return Object.fromEntries(stations.map((station) => {
    const own = findings.filter((f) => f.station === station)
    const looked = active.some((rule) => rule.station === station)
    const worst = (['stop', 'caution', 'note'] as const).find((level) => own.some((f) => f.level === level))
    const state: StationState = worst ?? (looked ? 'clear' : 'none')
    return [station, { state, count: own.length }]
  })) as Tally
}
