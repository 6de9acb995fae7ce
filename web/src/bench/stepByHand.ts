import type { Finding, RemedyOptions } from '@stern-gate/contract'

/** A step that a person completes, where a finding brings none that is whole. */
export interface StepByHand {
  label: string
  remedy: string
  options: RemedyOptions
}

export function stepByHand({ rule, place, remedies }: Finding): StepByHand | null {
  if (remedies.length > 0) return null
  if (place.kind === 'name')
    return {
      label: 'Name it by hand',
      remedy: 'names/rename',
      options: { what: place.what, from: place.name },
    }
  if (rule === 'scale/expected-size') return { label: 'Scale by hand', remedy: 'scale/rescale', options: {} }
  if (rule === 'mesh/vertex-ratio' && place.kind === 'node')
    return { label: 'Soften edges by hand', remedy: 'mesh/recompute-normals', options: { node: place.node } }
  if (place.kind === 'slot' && SURFACELESS.has(rule))
    return { label: 'Set its surface by values', remedy: 'slots/surface', options: { slot: place.slot } }
  return null
}

/** Rules that speak of slots which lack something. */
const SURFACELESS = new Set(['slots/missing-input', 'slots/empty'])
