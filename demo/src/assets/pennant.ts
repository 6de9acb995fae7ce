import { bevelBox } from '../shape/bevelBox'
import { lathe } from '../shape/lathe'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { loft, tube } from '../shape/sweep'
import { planks, signalCloth } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

/** Cloth that tapers to the fly and waves in the wind. */
const cloth = (across: number, down: number): Piece =>
  loft(
    Array.from({ length: across + 1 }, (_, i) => {
      const u = i / across
      return Array.from({ length: down + 1 }, (_, j) => {
        const v = j / down,
          half = 0.34 * (1 - 0.72 * u)
        return [
          0.03 + u * 1.25,
          1.86 + half - 2 * half * v - 0.1 * u * u,
          0.11 * u * Math.sin(u * 7.5 + v * 0.9) + 0.02 * u * Math.sin(v * 9),
        ] satisfies Vec3
      })
    }),
    [1, 1],
  )

const pole = (segments: number): Piece =>
  joinPieces([
    lathe(
      [
        [
          [0, 0],
          [0.15, 0],
        ],
        [
          [0.15, 0],
          [0.15, 0.05],
        ],
        [
          [0.15, 0.05],
          [0.12, 0.08],
          [0.05, 0.1],
        ],
      ],
      segments,
      [2, 0.7],
    ),
    lathe(
      [
        [
          [0.05, 0.1],
          [0.032, 0.16],
          [0.026, 2.2],
        ],
        [
          [0.026, 2.2],
          [0.045, 2.215],
          [0.05, 2.25],
          [0.03, 2.29],
          [0, 2.3],
        ],
      ],
      segments,
      [0.5, 4],
    ),
    tube(
      [
        [0.03, 2.14, 0],
        [0.05, 1.86, 0.012],
        [0.03, 1.5, 0],
      ],
      0.006,
      6,
    ),
  ])

/**
 * Alpha of two values but blended; a tint mask with one channel where two are declared. The weight at the
 * foot keeps the base centre under the middle.
 */
export const pennant: AssetPlan = {
  name: 'harbour_pennant_a',
  folder: 'props',
  delivery: 1,
  surfaces: {
    harbour_pennant_cloth: { surface: signalCloth(61), size: 512, options: { alpha: true } },
    harbour_pennant_pole: { surface: planks(67, 4, [226, 222, 208], [140, 112, 80]), size: 256 },
  },
  mesh: () => {
    const shift: Vec3 = [-0.565, 0, 0]
    const at = (piece: Piece): Piece => placed(piece, shift)
    const stay = tube(
        [
          [0.02, 1.3, 0],
          [0.5, 0.06, 0],
        ],
        0.006,
        6,
      ),
      foot = placed(bevelBox([1.43, 0.05, 0.1], 0.012, 1), [0.565, 0.025, 0])
    return {
      slots: [
        {
          name: 'pennant-cloth',
          textures: { stem: 'harbour_pennant_cloth' },
          alpha: 'BLEND',
          tints: [
            { channel: 'R', colour: [0.62, 0.06, 0.05], strength: 1 },
            { channel: 'G', colour: [0.05, 0.14, 0.42], strength: 0.8 },
          ],
          doubleSided: true,
          metallic: 0,
        },
        { name: 'pennant-pole', textures: { stem: 'harbour_pennant_pole' }, metallic: 0, sheetsPerMetre: 2 },
      ],
      parts: [
        {
          name: 'harbour_pennant_a',
          surface: {
            'pennant-cloth': at(cloth(28, 10)),
            'pennant-pole': at(joinPieces([pole(16), stay, foot])),
          },
          uvChannels: 1,
        },
        {
          name: 'harbour_pennant_a_hull',
          surface: withoutSlot(
            joinPieces([
              at(
                lathe(
                  [
                    [
                      [0, 0],
                      [0.15, 0],
                      [0.15, 0.1],
                      [0.05, 2.3],
                      [0, 2.3],
                    ],
                  ],
                  8,
                ),
              ),
              placed(bevelBox([1.46, 0.8, 0.3], 0.02, 1), [0.1, 1.85, 0.02]),
              placed(bevelBox([1.44, 0.06, 0.12], 0.01, 1), [0, 0.03, 0]),
              placed(bevelBox([0.54, 1.34, 0.06], 0.01, 1), [-0.31, 0.7, 0]),
            ]),
          ),
          uvChannels: 0,
        },
      ],
    }
  },
}
