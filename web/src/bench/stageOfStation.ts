import type { AssetKind, Station } from '@stern-gate/contract'

export type StageKind = 'files' | 'names' | 'model' | 'texture' | 'uvs'

/** Which stage shows the evidence of a station. */
export function stageOfStation(station: Station, kind: AssetKind): StageKind {
  if (station === 'files' || station === 'names') return station
  if (station === 'colour' || station === 'compression' || kind === 'texture-set') return 'texture'
  return station === 'uvs' ? 'uvs' : 'model'
}

/** Stations whose own stage is still to come: until then they show the model with figures beside it. */
export const plainerStages: Partial<Record<Station, string>> = {
  lods: 'The row of levels at their distances is still to come; choose a level in the table.',
  collision: 'Ball and walker are still to come; collision meshes lie over the model as a veil.',
}
