import { stations, stationTitles, type StationState, type Tally } from '@stern-gate/contract'

export type LevelState = StationState | 'waiting'

/**
 * Shapes of the levels in a box of 14 × 14, as SVG. Levels are colour and shape and word: a shape never
 * stands alone, the caller gives the word.
 */
export const levelShapes: Record<LevelState, string> = {
  stop: '<path d="M7 .8 13.2 7 7 13.2 .8 7z" fill="var(--stop)"/>',
  caution:
    '<path d="M1 9.6a6 6 0 0 1 12 0z" fill="var(--caution)"/><path d="M1 11.6h12" stroke="var(--caution)" stroke-width="1.4"/>',
  note: '<circle cx="7" cy="7" r="4.6" fill="none" stroke="var(--note)" stroke-width="1.8"/>',
  clear: '<path d="M3.2 7.4 6 10l4.8-6" fill="none" stroke="var(--clear)" stroke-width="1.7" opacity=".75"/>',
  waived:
    '<g stroke="var(--soft)" stroke-width="1.6" fill="none"><circle cx="7" cy="7" r="4.6"/><path d="M3 11 11 3"/></g>',
  waiting:
    '<g fill="var(--soft)"><circle cx="2.6" cy="7" r="1.3"/><circle cx="7" cy="7" r="1.3"/><circle ' +
    'cx="11.4" cy="7" r="1.3"/></g>',
  none: '<path d="M5 7h4" stroke="var(--line)" stroke-width="1.6"/>',
}

export const levelWords: Record<StationState, string> = {
  stop: 'stop',
  caution: 'caution',
  note: 'note',
  waived: 'waived',
  clear: 'clear',
  none: 'does not apply',
}

/**
 * The ten stations of a tally side by side, evenly over the width of the SVG they stand in. One piece: lists
 * hold hundreds of them.
 */
export const tallyShapes = (tally: Tally): string =>
  stations
    .map((station, i) => {
      const { state, count } = tally[station]
      return `<svg x="${i * 10 + 5}%" overflow="visible"><g transform="translate(-6.5) scale(.93)">${levelShapes[state]}<rect x="-8" y="-8" width="30" height="30" fill="transparent"><title>${stationTitles[station]}: ${count || ''} ${levelWords[state]}</title></rect></g></svg>`
    })
    .join('')

/** The same in words, for who does not see it. */
export function tallyWords(tally: Tally): string {
  const found = stations
    .filter((s) => tally[s].count > 0)
    .map((s) => `${stationTitles[s]}: ${tally[s].count} ${levelWords[tally[s].state]}`)
  return found.length > 0 ? found.join(', ') : 'All stations clear'
}
