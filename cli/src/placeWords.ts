import type { Place } from '@stern-gate/contract'

/** A place in words: node harbour_crate_a, channel 1. */
export function placeWords(place: Place): string {
  if (place.kind === 'asset') return 'the asset'
  return Object.entries(place)
    .filter(([key]) => !['kind', 'span', 'evidence', 'what'].includes(key))
    .map(([key, value]) => `${key} ${String(value)}`)
    .join(', ')
}
