import type { Level, Rulebook } from '@stern-gate/contract'
import { defaultRulebook } from './defaultRulebook'

const leveled = (name: string, levels: Record<string, Level>): Rulebook => ({
  ...defaultRulebook,
  name,
  rules: Object.fromEntries(Object.entries(levels).map(([rule, level]) => [rule, { level }])),
})

/** Holds what the default only warns of: for a library that is in order and is to stay so. */
const strict = leveled('strict', {
  'names/pattern': 'stop',
  'names/meaningless': 'stop',
  'names/characters': 'stop',
  'names/role-known': 'stop',
  'names/agree': 'stop',
  'scale/expected-size': 'stop',
  'scale/unbaked-transform': 'stop',
  'scale/pivot': 'stop',
  'mesh/degenerate': 'stop',
  'mesh/doubled-points': 'stop',
  'mesh/non-manifold': 'caution',
  'slots/unused': 'stop',
  'slots/missing-input': 'stop',
  'colour/space': 'stop',
  'colour/profile': 'stop',
  'compression/size': 'stop',
  'compression/mips': 'stop',
  'files/strays': 'stop',
  'files/duplicate-material': 'stop',
})

/** Holds only what breaks in the game: for a library that somebody else made, or a first look. */
const relaxed = leveled('relaxed', {
  'names/pattern': 'note',
  'names/meaningless': 'note',
  'names/characters': 'note',
  'names/role-known': 'note',
  'names/agree': 'note',
  'scale/pivot': 'note',
  'scale/unbaked-transform': 'note',
  'scale/expected-size': 'note',
  'mesh/triangle-budget': 'note',
  'mesh/doubled-points': 'note',
  'mesh/degenerate': 'note',
  'slots/count': 'note',
  'slots/unused': 'note',
  'slots/missing-input': 'note',
  'uvs/density': 'note',
  'uvs/outside': 'note',
  'lods/missing': 'caution',
  'collision/missing': 'caution',
  'files/embedded-texture': 'note',
  'files/folder': 'note',
  'files/strays': 'note',
  'files/duplicate-material': 'note',
  'colour/profile': 'note',
  'colour/alpha-unused': 'note',
  'colour/flat': 'note',
})

/** Rulebooks that a project may start from, by name. */
export const startingRulebooks: Readonly<Record<string, Rulebook>> = {
  default: defaultRulebook,
  strict,
  relaxed,
}
