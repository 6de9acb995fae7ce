import type { Finding, Report } from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core'
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
    for (const alike of byRule(asset.findings)) {
      for (const finding of alike.slice(0, MOST_OF_A_RULE))
        lines.push(`${beginning(finding)}${finding.text}`, `             ${placeText(finding)}`)
      if (alike.length > MOST_OF_A_RULE)
        lines.push(
          `${beginning(alike[0]!)}… and ${formatCount(alike.length - MOST_OF_A_RULE)} more like these; --format json has them all.`,
        )
    }
  }
  for (const fault of report.refused) lines.push(`refused  ${faultText(fault).trimEnd()}`)
  const { notRead } = report
  if (notRead.length > 0)
    lines.push(
      `not read  ${counted(notRead.length, 'file')} of kinds that are not looked at: ${notRead.slice(0, MOST_NAMED).join(', ')}${notRead.length > MOST_NAMED ? ' …' : ''}`,
    )
  const { assets, held, refused, stops, cautions, notes } = report.totals
  lines.push(
    '',
    `${counted(assets, 'asset')}, ${held} held, ${counted(refused, 'file')} refused: ${counted(stops, 'stop')}, ${counted(cautions, 'caution')}, ${counted(notes, 'note')}. Target ${report.target}.`,
    '',
  )
  return lines.join('\n')
}

/** Findings of one rule and level together, in the order in which the first of each stands. */
function byRule(findings: readonly Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>()
  for (const finding of findings) {
    const key = `${finding.level} ${finding.rule}`,
      known = groups.get(key)
    if (known) known.push(finding)
    else groups.set(key, [finding])
  }
  return [...groups.values()]
}

const counted = (count: number, what: string): string =>
  `${formatCount(count)} ${what}${count === 1 ? '' : 's'}`

const beginning = ({ level, rule }: Finding): string => `    ${level.padEnd(7)}  ${rule}  `

const placeText = ({ place, also, remedies }: Finding): string =>
  [placesText([place, ...also]), ...remedies.map((r) => `${r.label} (${r.remedy})`)].join(' · ')

/** So many of the places of one finding are named. */
const MOST_PLACES = 4
const placesText = (places: readonly Finding['place'][]): string =>
  places.slice(0, MOST_PLACES).map(placeWords).join(', ') +
  (places.length > MOST_PLACES ? ` and ${formatCount(places.length - MOST_PLACES)} more` : '')
