import type { AssetKind, Station } from '@stern-gate/contract'

export type StageKind = 'files' | 'names' | 'model' | 'texture'

/** Which stage shows the evidence of a station. */
export function stageOfStation(station: Station, kind: AssetKind): StageKind {
  if (station === 'files' || station === 'names') return station
  if (station === 'colour' || station === 'compression' || kind === 'texture-set') return 'texture'
  return 'model'
}

/** Stations whose own stage is still to come: until then they show the model with figures beside it. */
export const plainerStages: Partial<Record<Station, string>> = {
  slots: 'The slot table with its surface settings is not built yet; the model and the figures are true.',
  compression: 'Encoding beside the source is not built yet; the figures are those of the delivered file.',
  uvs: 'The UV sheet is not built yet; the model and the figures are true.',
  lods: 'The row of levels at their distances is not built yet; look at each level by its button.',
  collision: 'Ball and walker are not built yet; collision meshes lie over the model as a veil.',
}
