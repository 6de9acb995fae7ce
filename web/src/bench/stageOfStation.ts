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
  uvs: 'Which way the grain of a texture runs on islands beside each other is not looked at yet.',
  compression: 'Sizes that the target asks for are made by steps; BC6H is still to come.',
  lods: 'Merged slots on far levels are still to come; cards show no normal maps.',
  collision: 'Balls and capsules as shapes of their own, and a walker, are still to come.',
}
