import type { AssetKind, Station } from '@stern-gate/contract'

export type StageKind = 'files' | 'names' | 'model' | 'texture' | 'uvs'

/** Which stage shows the evidence of a station. */
export function stageOfStation(station: Station, kind: AssetKind): StageKind {
  if (station === 'files' || station === 'names') return station
  if (station === 'colour' || station === 'compression' || kind === 'texture-set') return 'texture'
  return station === 'uvs' ? 'uvs' : 'model'
}

/** What a station does not do yet, said where it is looked for. */
export const plainerStages: Partial<Record<Station, string>> = {
  slots: 'Second layers, painted wear, surface files and parts of a mesh by hand are still to come.',
  colour: 'Padding around islands, and islands drawn over the texture, are still to come.',
  compression:
    'Sizes that the target asks for are made by steps; levels one by one and BC6H are still to come.',
  lods: 'Card levels, merged slots on far levels and a view of many copies are still to come.',
  collision: 'Spheres and capsules, a walker, and the best of several shapes side by side are still to come.',
}
