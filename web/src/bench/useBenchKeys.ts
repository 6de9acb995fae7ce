import { stations, type Finding, type Station } from '@stern-gate/contract'
import { isTyping, useWindowKey } from '../keys/useWindowKey'

export interface BenchControls {
  station: () => Station
  finding: () => Finding | null
  all: () => readonly Finding[]
  count: (station: Station) => number
  go: (station: Station) => void
  choose: (finding: Finding) => void
  back: () => void
  undo: () => void
  flip: () => void
  /** Puts the source left of a divider, or takes it away. */
  divide: () => void
  /** Shows the next or the previous variant of the file. */
  variant: (by: 1 | -1) => void
  fold: () => void
  /** Opens the list of remedies. */
  add: () => void
  /** Opens what is safe to mend. */
  mend: () => void
}

/** Keys of the bench: figures go to stations, brackets to those with findings, N to findings. */
export function useBenchKeys(bench: BenchControls): void {
  useWindowKey((event) => {
    if (isTyping(event) || event.altKey) return
    const act =
      event.ctrlKey || event.metaKey
        ? event.key.toLowerCase() === 'z'
          ? bench.undo
          : null
        : actionOf(event, bench)
    if (!act) return
    event.preventDefault()
    act()
  })
}

function actionOf(event: KeyboardEvent, bench: BenchControls): (() => void) | null {
  if (/^\d$/.test(event.key)) return () => bench.go(stations[(Number(event.key) + 9) % 10]!)
  switch (event.key) {
    case '[':
      return () => bench.go(neighbour(bench, -1))
    case ']':
      return () => bench.go(neighbour(bench, 1))
    case 'n':
      return () => nextFinding(bench, 1)
    case 'N':
      return () => nextFinding(bench, -1)
    case 'b':
    case 'B':
      return bench.flip
    case 'd':
      return bench.divide
    case 'v':
      return () => bench.variant(1)
    case 'V':
      return () => bench.variant(-1)
    case '\\':
      return bench.fold
    case 'a':
      return bench.add
    case 'm':
    case 'M':
      return bench.mend
    case 'Escape':
      return document.querySelector('[role="dialog"]') ? null : bench.back
  }
  return null
}

/** Next station that has findings, around the end; the same one when there is no other. */
function neighbour(bench: BenchControls, by: number): Station {
  const at = stations.indexOf(bench.station())
  for (let step = 1; step <= stations.length; step++) {
    const candidate = stations[(at + by * step + stations.length * 2) % stations.length]!
    if (bench.count(candidate) > 0) return candidate
  }
  return bench.station()
}

/** From the chosen finding on; without one from the first of the station on. */
function nextFinding(bench: BenchControls, by: number): void {
  const all = bench.all()
  if (all.length === 0) return
  const now = bench.finding()
  const start = now
    ? all.findIndex((f) => f.fingerprint === now.fingerprint) + by
    : Math.max(
        0,
        all.findIndex((f) => f.station === bench.station()),
      )
  bench.choose(all[(start + all.length) % all.length]!)
}
