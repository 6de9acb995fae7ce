import {
  counts,
  stations,
  type Finding,
  type Level,
  type RemedyOptions,
  type Rulebook,
  type Tally,
  type Station,
  type Verdict,
} from '@stern-gate/contract'
import type { RawFinding, Rule } from '../rules/defineRule'
import { canRewrite } from '../read/canRewrite'
import { compileRulebook } from '../rulebook/compiledRulebook'
import { findRemedy } from '../remedies/index'
import { rules as allRules } from '../rules/index'
import type { Subject } from '../subject/subject'
import { fillMessage } from './fillMessage'
import { fingerprint } from './fingerprint'
import { joinAlike } from './joinAlike'
import { speakOnce } from './speakOnce'
import { waive, type Waiving } from './waiving'

export interface Judgement {
  findings: Finding[]
  tally: Tally
  verdict: Verdict
  /** Findings that a waiver accepts; they are in no count of the tally. */
  waived: number
}

const stationOrder = Object.fromEntries(stations.map((s, i) => [s, i])) as Record<Station, number>
const gravity: Record<Level, number> = { stop: 0, caution: 1, note: 2 }

/**
 * Runs the rules over one subject with the project's settings; pure and quick. Findings come by station,
 * gravest first.
 */
export function judge(
  subject: Subject,
  rules: readonly Rule[] = allRules,
  waiving: Waiving | null = null,
): Judgement {
  const { active, untouched } = activeRules(subject, rules)
  const all: Finding[] = []
  for (const { rule, options } of active) {
    const found = rule.judge(subject, options)
    if (found.length === 0) continue
    const own: Finding[] = []
    for (let i = 0; i < found.length; i++) own.push(finish(rule, found[i]!, subject))
    all.push(
      ...joinAlike(
        waiving ? waive(toldApart(own), subject, waiving) : toldApart(own),
        subject,
        found.map((f) => f.part),
      ),
    )
  }
  const findings = speakOnce(all)
  findings.sort(
    (a, b) => stationOrder[a.station] - stationOrder[b.station] || gravity[a.level] - gravity[b.level],
  )
  return {
    findings,
    tally: tallyOf(findings, untouched),
    verdict: findings.some((f) => f.level === 'stop' && counts(f)) ? 'held' : 'clear',
    waived: findings.filter((f) => !counts(f)).length,
  }
}

/** Findings of one rule that its parts do not tell apart are numbered, so that each has a fingerprint of its own. */
function toldApart(findings: Finding[]): Finding[] {
  if (findings.length < 2) return findings
  const counts = new Map<string, number>()
  for (const finding of findings) {
    const count = (counts.get(finding.fingerprint) ?? 0) + 1
    counts.set(finding.fingerprint, count)
    if (count > 1) finding.fingerprint += `-${count}`
  }
  return findings
}

/** New names that the findings of an asset offer for the asset itself. */
export const offeredNames = (findings: readonly Finding[]): string[] =>
  findings
    .flatMap((f) => f.remedies)
    .filter(({ remedy, options }) => remedy === 'names/rename' && options['what'] === 'asset')
    .map(({ options }) => String(options['to']))

interface ActiveRule {
  rule: Rule
  options: unknown
}
/** Rules for one kind of asset, and the tally of one that none of them finds fault with. */
interface Settled {
  of: readonly Rule[]
  active: readonly ActiveRule[]
  untouched: Readonly<Tally>
}

/**
 * Rules that look at this kind of asset, each with the project's options over its defaults; the rulebook was
 * checked at its door (see checkRulebook).
 */
function activeRules(subject: Subject, rules: readonly Rule[]): Settled {
  const { rulebook, kind, className } = subject
  const { more } = compileRulebook(rulebook),
    key = `rules of a ${kind}, ${className}`
  const known = more.get(key) as Settled | undefined
  if (known?.of === rules) return known
  const active = rules
    .filter((rule) => rule.meta.kinds.includes(kind) && isOn(rulebook, rule.id, className))
    .map((rule) => ({ rule, options: rule.options.parse(rulebook.rules[rule.id]?.options ?? {}) as unknown }))
  const looked = new Set(active.map(({ rule }) => rule.station))
  const untouched = Object.fromEntries(
    stations.map((station) => [station, { state: looked.has(station) ? 'clear' : 'none', count: 0 }]),
  ) as Tally
  const made = { of: rules, active, untouched }
  more.set(key, made)
  return made
}

const isOn = ({ rules: settings }: Rulebook, rule: string, className: string): boolean =>
  settings[rule]?.enabled !== false && settings[rule]?.levelByClass?.[className] !== 'off'

function finish(rule: Rule, raw: RawFinding, subject: Subject): Finding {
  const message = rule.messages[raw.message]!,
    said = typeof message === 'string' ? { text: message } : message,
    text = fillMessage(said.text, raw.data)
  const guessed = said.byClass === true && subject.classFrom === 'default'
  return {
    rule: rule.id,
    station: rule.station,
    level: guessed ? 'note' : levelOf(rule, said.level, subject),
    message: raw.message,
    text: guessed ? `${text} Its class is only guessed.` : text,
    data: raw.data,
    place: raw.place,
    also: [],
    gauge: raw.gauge ?? null,
    remedies: (raw.remedies ?? [])
      .filter((r) => canApply(r, subject))
      .map((r) => ({
        remedy: r.remedy,
        options: r.options,
        label: fillMessage(rule.labels[r.label]!, { ...raw.data, ...plainValues(r.options) }),
        also: [],
      })),
    value: raw.measure ?? null,
    alike: [],
    waived: null,
    fingerprint: fingerprint({ ...raw, rule: rule.id, place: raw.identity ?? raw.place }, subject),
  }
}

/** Level that the rulebook sets for the class or for all, else that of the message, else that of the rule. */
function levelOf(rule: Rule, own: Level | undefined, { rulebook, className }: Subject): Level {
  const setting = rulebook.rules[rule.id],
    ofClass = setting?.levelByClass?.[className]
  // Rules that are off for the class did not run (see activeRules)
  return (ofClass === 'off' ? undefined : ofClass) ?? setting?.level ?? own ?? rule.meta.level
}

/** Steps that change texels are offered only where texels can be written anew. */
function canApply(
  { remedy, options }: { remedy: string; options: RemedyOptions },
  subject: Subject,
): boolean {
  if (findRemedy(remedy)?.needs !== 'texels') return true
  const header = subject.textures.find((t) => t.name === options['texture'])?.facts?.header
  return !header || canRewrite(header)
}

/** What the words of a label can name. */
const plainValues = (options: RemedyOptions): Record<string, string | number | boolean> =>
  Object.fromEntries(
    Object.entries(options).flatMap(([k, v]) => (v === null || Array.isArray(v) ? [] : [[k, v]])),
  )

function tallyOf(findings: readonly Finding[], untouched: Readonly<Tally>): Tally {
  const tally: Tally = { ...untouched }
  for (const finding of findings) {
    const { station, level } = finding,
      { state, count } = tally[station]
    if (!counts(finding)) {
      if (state === 'clear' || state === 'none') tally[station] = { state: 'waived', count }
      continue
    }
    const isFirst = state === 'clear' || state === 'none' || state === 'waived'
    tally[station] = {
      state: isFirst || gravity[level] < gravity[state] ? level : state,
      count: count + 1,
    }
  }
  return tally
}
