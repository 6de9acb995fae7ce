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
  return null
}
