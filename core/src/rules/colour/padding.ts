import * as z from 'zod'
import type { GroundFacts } from '@stern-gate/contract'
import { CELLS, cellsBeside, countCells, unpackCells } from '../../geometry/cellMask'
import { islandsOfTexture } from '../../subject/islandsOfTexture'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

const words: Readonly<Record<GroundFacts['kind'], string>> = {
  black: 'black',
  white: 'white',
  'flat-normal': 'flat',
  transparent: 'transparent',
  flat: 'one flat value',
}

export const padding = defineRule({
  id: 'colour/padding',
  station: 'colour',
  meta: {
    title: 'The colour of islands goes on around them',
    why:
      'Smaller mip levels mix neighbouring texels. Where an island ends at its border, the ground beside it ' +
      'comes in as a dark or bright seam, the further away the wider.',
    level: 'caution',
    kinds: ['mesh'],
    reads: [
      'cells of the sheet that slots use',
      'cells of the texture that are its ground',
      'means of its used texels',
    ],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.1)
      .describe('share of the borders of islands at which the ground may begin at once'),
    contrast: z
      .number()
      .min(0)
      .max(1)
      .default(0.1)
      .describe(
        'difference of the ground to the mean of what is used, in one channel, from which a seam is seen',
      ),
  }),
  messages: {
    bare:
      'Along {percent} % of the borders of its islands {texture} turns {ground} within {texels} texels; ' +
      'from mip level {mip} on that is seen as a seam.',
  },
  labels: { grow: 'Grow islands by {texels} texels' },
  judge: (subject, { share, contrast }) =>
    findingsOf(subject.textures, (texture) => {
      const { ground, header, content } = texture.facts ?? {}
      if (!ground?.cells || !header || contrastOf(ground, content?.mean ?? []) < contrast) return null
      // Inputs of extensions are not grown
      if (texture.uses.some((u) => u.input === 'other')) return null
      const islands = islandsOfTexture(subject.mesh, texture.uses)
      if (!islands) return null
      const bare = bareShare(islands, unpackCells(ground.cells))
      if (bare === null || bare <= share) return null
      // A cell beside an island has so many texels
      const texels = Math.round(Math.max(header.width, header.height) / CELLS)
      return {
        message: 'bare' as const,
        data: {
          texture: texture.name,
          percent: Math.round(bare * 100),
          ground: words[ground.kind],
          texels,
          mip: Math.round(Math.log2(texels)),
        },
        gauge: { value: bare, unit: 'share' as const, max: share, scale: 'linear' as const },
        place: { kind: 'texture' as const, texture: texture.name },
        remedies: [
          {
            remedy: 'colour/grow-islands',
            options: { texture: texture.name, texels: texels * 2 },
            label: 'grow' as const,
          },
        ],
      }
    }),
})

/** Greatest difference of a channel of the ground to the mean of what is used; 0 to 1. */
const contrastOf = ({ value }: GroundFacts, mean: readonly number[]): number =>
  Math.max(0, ...value.map((v, c) => Math.abs(v / 255 - (mean[c] ?? v / 255))))

/**
 * Of the cells right beside an island whose own texels are no ground: the share that is ground. Null where no island
 * has a border.
 */
function bareShare(islands: Uint32Array, ground: Uint32Array): number | null {
  const borders = cellsBeside(islands.map((word, at) => word & ~ground[at]!)).map(
    (word, at) => word & ~islands[at]!,
  )
  const beside = countCells(borders)
  return beside === 0 ? null : countCells(borders.map((word, at) => word & ground[at]!)) / beside
}
