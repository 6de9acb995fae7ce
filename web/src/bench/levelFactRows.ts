import type { AssetState, LevelErrorFacts } from '@stern-gate/contract'
import { distanceOf } from '@stern-gate/core/lods'
import { formatLength, formatNumber, formatShare } from '@stern-gate/core/numbers'
import { row, type FactGroup } from './factRows'

/** Facts of LODs: triangles, steps, and how far each level is off the finest. */
export const levelFacts = (s: AssetState): FactGroup[] => [
  { title: 'Triangles by level', rows: s.levels.map((l) => row(`LOD ${l.level}`, l.triangles)) },
  {
    title: 'Share of the level before',
    rows: s.levels
      .slice(1)
      .map((l, i) => row(`LOD ${l.level}`, formatShare(l.triangles / Math.max(1, s.levels[i]!.triangles)))),
  },
  ...(s.mesh?.chain?.errors ?? []).map((e) => levelErrorFacts(s, e)),
]

/** How far one level is off the finest, with what that is where it comes. */
function levelErrorFacts(s: AssetState, e: LevelErrorFacts): FactGroup {
  const finest = s.levels[0]?.level ?? 0
  return {
    title: `LOD ${e.level} against LOD ${finest}`,
    rows: [
      row('Largest deviation', formatLength(e.most)),
      row('99 % within', formatLength(e.within99)),
      row('One pixel from', formatLength(distanceOf(e.within99, 1, s.screen))),
      row('Normals turn by', `${formatNumber(e.normals)}°`),
      row('Outline differs', e.outline === null ? 'not known' : formatShare(e.outline)),
      row('UVs move by', e.uv === null ? 'not known' : `${formatShare(e.uv)} of the sheet`),
    ],
  }
}
