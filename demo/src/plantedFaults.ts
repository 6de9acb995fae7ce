/** One fault that the generator plants. `from` tells since when its rule is there: now, or when the station is filled in. */
export interface PlantedFault { asset: string; rule: string; place: string; count: number; from: 'now' | 'later'; words: string }

/** Every planted fault; the tests hold the verdicts against it: each with a rule is found, nothing else is. */
export const plantedFaults: readonly PlantedFault[] = [
  { asset: 'harbour_skiff_a', rule: 'scale/expected-size', place: 'asset', count: 1, from: 'now', words: 'centimetres read as metres: a hundred times too big' },
  { asset: 'harbour_skiff_a', rule: 'scale/axes', place: 'asset', count: 1, from: 'later', words: 'lies on its side' },
  { asset: 'harbour_skiff_a', rule: 'collision/missing', place: 'asset', count: 1, from: 'now', words: 'no collision' },
  { asset: 'harbour_lantern_a', rule: 'files/embedded-texture', place: 'texture', count: 3, from: 'later', words: 'textures embedded' },
  { asset: 'harbour_lantern_a', rule: 'colour/normal-green', place: 'harbour_lantern_a_normal.png', count: 1, from: 'now', words: 'normal map with green down' },
  { asset: 'harbour_lantern_a', rule: 'colour/space', place: 'harbour_lantern_a_orm.png', count: 1, from: 'now', words: 'packed map flagged sRGB' },
  { asset: 'harbour_winch_a', rule: 'uvs/missing', place: 'channel', count: 6, from: 'now', words: 'no UVs on any of six drawn parts' },
  { asset: 'harbour_winch_a', rule: 'mesh/degenerate', place: 'harbour_winch_a', count: 1, from: 'now', words: 'six triangles without an area' },
  { asset: 'harbour_winch_a', rule: 'mesh/doubled-points', place: 'harbour_winch_a', count: 1, from: 'later', words: 'doubled points' },
  { asset: 'harbour_winch_a', rule: 'scale/mirrored', place: 'harbour_winch_a/cheek_right', count: 1, from: 'later', words: 'one cheek mirrored by a negative scale' },
  { asset: 'harbour_pennant_a', rule: 'slots/alpha-mode', place: 'pennant-cloth', count: 1, from: 'later', words: 'cutout that is set to blend' },
  { asset: 'harbour_pennant_a', rule: 'slots/tint-channels', place: 'pennant-cloth', count: 1, from: 'later', words: 'tint mask with one channel where two are declared' },
]
