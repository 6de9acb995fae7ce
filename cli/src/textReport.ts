import { counts, type Finding, type Report, type Waived } from '@stern-gate/contract'
import { countOf, formatCount, isShared } from '@stern-gate/core'
import { placeWords } from './placeWords'
import { faultText } from './surroundings'

/**
 * So many findings of one rule on one asset are written out; a model of ten thousand nodes would say the same
 * ten thousand times.
 */
const MOST_OF_A_RULE = 8
/** So many files that are not read are named. */
const MOST_NAMED = 12

/** The report for a person at a terminal. */
export function textReport(report: Report): string {
  const lines: string[] = []
  for (const asset of report.assets) {
    lines.push(
      `${asset.verdict === 'held' ? 'held ' : 'clear'}  ${asset.name}  (${asset.kind === 'mesh' ? asset.class : 'texture set'})`,
    )
    const own = asset.findings.filter((f) => !isShared(f, asset.files[0]!, report.shared))
    for (const alike of byRule(own)) {
      for (const finding of alike.slice(0, MOST_OF_A_RULE))
        lines.push(`${beginning(finding)}${finding.text}`, `             ${placeText(finding)}`)
      if (alike.length > MOST_OF_A_RULE)
        lines.push(
          `${beginning(alike[0]!)}… and ${formatCount(alike.length - MOST_OF_A_RULE)} more like these; ` +
            '--format json has them all.',
        )
    }
  }
  for (const fault of report.refused) lines.push(`refused  ${faultText(fault).trimEnd()}`)
  for (const { path, why } of report.setAside) lines.push(`set aside  ${path}  ${why}`)
  const { notRead } = report
  if (notRead.length > 0)
    lines.push(
      `not read  ${countOf(notRead.length, 'file')} of kinds that are not looked at: ` +
        notRead.slice(0, MOST_NAMED).join(', ') +
        (notRead.length > MOST_NAMED ? ' …' : ''),
    )
  if (report.shared.length > 0) {
    lines.push('', 'The same for most of them, and said once:')
    for (const { level, rule, text, act } of sharedLines(report))
      lines.push(`    ${level.padEnd(7)}  ${rule}  ${text}`, `             ${act}`)
  }
  lines.push(...whatHoldsMost(report))
  const { assets, held, refused, stops, cautions, notes, waived } = report.totals
  lines.push(
    '',
    `${countOf(assets, 'asset')}, ${held} held, ${countOf(refused, 'file')} refused: ` +
      `${countOf(stops, 'stop')}, ${countOf(cautions, 'caution')}, ${countOf(notes, 'note')}` +
      `${waived > 0 ? `, ${waived} waived` : ''}. Target ${report.target}.`,
    '',
  )
  return lines.join('\n')
}

/** What is said once, with its level and what mends it. */
const sharedLines = (report: Report): { level: string; rule: string; text: string; act: string }[] =>
  report.shared.map((s) => ({
    level: report.assets.flatMap((a) => a.findings).find((f) => isShared(f, s.assets[0]!, [s]))?.level ?? '',
    rule: s.rule,
    text: s.text,
    act:
      s.act.kind === 'fit'
        ? 'If they are right as they are: stern-gate fit … --out stern-gate.json'
        : `${s.act.remedy} mends each: check --mend all`,
  }))

/** So many rules are named that hold assets. */
const MOST_HOLDING = 5

/** The rules that hold most assets, and which one alone holds most of them. */
function whatHoldsMost({ assets }: Report): string[] {
  const holding = new Map<string, { holds: number; alone: number }>()
  for (const { findings } of assets) {
    const rules = [...new Set(findings.filter((f) => f.level === 'stop' && counts(f)).map((f) => f.rule))]
    for (const rule of rules) {
      const known = holding.get(rule) ?? { holds: 0, alone: 0 }
      holding.set(rule, { holds: known.holds + 1, alone: known.alone + (rules.length === 1 ? 1 : 0) })
    }
  }
  const all = [...holding].sort((a, b) => b[1].holds - a[1].holds || (a[0] < b[0] ? -1 : 1))
  if (all.length === 0 || assets.length < 2) return []
  const [best] = [...all].sort((a, b) => b[1].alone - a[1].alone)
  return [
    '',
    'What holds most:',
    ...all.slice(0, MOST_HOLDING).map(([rule, { holds }]) => `    ${String(holds).padStart(5)}  ${rule}`),
    ...(best![1].alone > 0
      ? [`Without ${best![0]} ${countOf(best![1].alone, 'more asset')} would be clear.`]
      : []),
  ]
}

/** Findings of one rule and level together, in the order in which the first of each stands. */
function byRule(findings: readonly Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>()
  for (const finding of findings) {
    const key = `${counts(finding)} ${finding.level} ${finding.rule}`,
      known = groups.get(key)
    if (known) known.push(finding)
    else groups.set(key, [finding])
  }
  return [...groups.values()]
}

const beginning = (finding: Finding): string =>
  `    ${(counts(finding) ? finding.level : 'waived').padEnd(7)}  ${finding.rule}  `

const placeText = ({ place, also, remedies, waived }: Finding): string =>
  [
    placesText([place, ...also]),
    ...remedies.map((r) => `${r.label} (${r.remedy})`),
    ...(waived ? [waiverWords(waived)] : []),
  ].join(' · ')

/** What a waiver says, and why it holds no longer. */
const waiverWords = ({ reason, until, fallen, value }: Waived): string =>
  fallen === 'ended'
    ? `accepted until ${until}, which is past: ${reason}`
    : fallen === 'worse'
      ? `accepted at ${value}, and worse now: ${reason}`
      : `accepted${until === null ? '' : ` until ${until}`}: ${reason}`

/** So many of the places of one finding are named. */
const MOST_PLACES = 4
const placesText = (places: readonly Finding['place'][]): string =>
  places.slice(0, MOST_PLACES).map(placeWords).join(', ') +
  (places.length > MOST_PLACES ? ` and ${formatCount(places.length - MOST_PLACES)} more` : '')
