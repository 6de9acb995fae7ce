import type { Finding, Waived, Waiver } from '@stern-gate/contract'
import { fitsGlob } from '../rulebook/glob'
import type { Subject } from '../subject/subject'

/** Waivers of a project as judging an asset needs them. */
export interface Waiving {
  /** What the asset is called in scopes: its id on the server, its path on the command line. */
  asset: string
  /** Day of judging, as 2026-01-31; it decides what has ended. */
  today: string
  waivers: readonly Waiver[]
}

/** A value may get worse by so much without being another one: it is measured anew at each export. */
const TOLERANCE = 1e-3

/** Findings with the waivers that are for them; of several one that holds. */
export function waive(findings: readonly Finding[], subject: Subject, waiving: Waiving): Finding[] {
  if (waiving.waivers.length === 0) return [...findings]
  return findings.map((finding) => {
    let fallen: Waived | null = null
    for (const waiver of waiving.waivers) {
      if (waiver.rule !== finding.rule || !reaches(waiver, finding, subject, waiving.asset)) continue
      const waived = waivedBy(waiver, finding, waiving.today)
      if (waived.fallen === null) return { ...finding, waived }
      fallen ??= waived
    }
    return fallen ? { ...finding, waived: fallen } : finding
  })
}

function reaches({ scope }: Waiver, finding: Finding, subject: Subject, asset: string): boolean {
  switch (scope.kind) {
    case 'finding':
      return scope.asset === asset && scope.fingerprint === finding.fingerprint
    case 'asset':
      return scope.asset === asset
    case 'class':
      return scope.class === subject.className
    case 'files':
      return fitsGlob(scope.glob, subject.path)
  }
}

const waivedBy = (waiver: Waiver, finding: Finding, today: string): Waived => ({
  reason: waiver.reason,
  until: waiver.until,
  by: waiver.by,
  given: waiver.given,
  scope: waiver.scope.kind,
  value: waiver.value,
  fallen:
    waiver.until !== null && waiver.until < today ? 'ended' : isWorse(finding, waiver.value) ? 'worse' : null,
})

/** Whether the value is further from what is good than the one that was accepted. */
function isWorse({ value, gauge }: Finding, accepted: number | null): boolean {
  if (accepted === null || value === null) return false
  const grows = gauge?.min === undefined || (gauge.max !== undefined && value > gauge.max)
  const slack = Math.abs(accepted) * TOLERANCE
  return grows ? value > accepted + slack : value < accepted - slack
}
