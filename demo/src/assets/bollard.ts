import { bevelBox } from '../shape/bevelBox'
import { lathe, type Profile } from '../shape/lathe'
import { joinPieces, onSheet, placed, type Piece } from '../shape/piece'
import { castStone, paintedIron } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

const arc = (
  cx: number,
  cy: number,
  radius: number,
  from: number,
  to: number,
  steps: number,
): [number, number][] =>
  Array.from({ length: steps + 1 }, (_, i) => {
    const a = ((from + ((to - from) * i) / steps) * Math.PI) / 180
    return [Math.max(0, cx + radius * Math.cos(a)), cy + radius * Math.sin(a)]
  })

/** Flange, waisted column and mushroom head. */
const body = (fine: number): Profile => [
  [
    [0.27, 0.13],
    [0.27, 0.155],
  ],
  arc(0.25, 0.155, 0.02, 0, 90, fine),
  [
    [0.25, 0.175],
    [0.185, 0.178],
  ],
  [
    ...arc(0.185, 0.218, 0.04, 270, 190, fine),
    [0.138, 0.34],
    [0.132, 0.46],
    [0.138, 0.56],
    ...arc(0.178, 0.6, 0.04, 170, 100, fine),
  ],
  [
    [0.172, 0.64],
    [0.215, 0.655],
  ],
  arc(0.215, 0.695, 0.04, 270, 450, fine * 2),
  [
    [0.215, 0.735],
    [0.12, 0.765],
    [0.05, 0.776],
    [0, 0.778],
  ],
]

function level(segments: number, fine: number, bolts: number): Record<string, Piece> {
  const iron = [onSheet(lathe(body(fine), segments, [2, 1.5]), [0.01, 0.01, 0.98, 0.58])]
  for (let i = 0; i < bolts; i++) {
    const a = ((i + 0.5) / bolts) * Math.PI * 2
    const bolt = lathe(
      [
        [
          [0.022, 0],
          [0.022, 0.016],
        ],
        [
          [0.022, 0.016],
          [0.016, 0.022],
          [0, 0.022],
        ],
      ],
      6,
      [0.4, 0.2],
    )
    iron.push(
      onSheet(placed(bolt, [Math.cos(a) * 0.222, 0.174, Math.sin(a) * 0.222]), [
        0.01 + (i % 6) * 0.065,
        0.62,
        0.06,
        0.06,
      ]),
    )
  }
  const stone = placed(bevelBox([0.72, 0.13, 0.72], 0.018, 1.4), [0, 0.065, 0])
  return { 'bollard-iron': joinPieces(iron), 'bollard-stone': onSheet(stone, [0.42, 0.62, 0.57, 0.37]) }
}

/** Clean: everything passes. */
export const bollard: AssetPlan = {
  name: 'harbour_bollard_a',
  folder: 'props',
  delivery: 1,
  surfaces: {
    harbour_bollard_iron: { surface: paintedIron(11, [44, 62, 66]), size: 512 },
    harbour_bollard_stone: { surface: castStone(23), size: 256 },
  },
  mesh: () => ({
    slots: [
      { name: 'bollard-iron', textures: { stem: 'harbour_bollard_iron' } },
      { name: 'bollard-stone', textures: { stem: 'harbour_bollard_stone' } },
    ],
    parts: [
      { name: 'harbour_bollard_a_lod0', surface: level(48, 6, 6), uvChannels: 2 },
      { name: 'harbour_bollard_a_lod1', surface: level(24, 3, 6), uvChannels: 2 },
      { name: 'harbour_bollard_a_lod2', surface: level(12, 1, 0), uvChannels: 2 },
      {
        name: 'harbour_bollard_a_hull',
        surface: withoutSlot(
          joinPieces([
            placed(bevelBox([0.72, 0.13, 0.72], 0.01, 1), [0, 0.065, 0]),
            lathe(
              [
                [
                  [0, 0.13],
                  [0.29, 0.13],
                  [0.275, 0.7],
                  [0.2, 0.78],
                  [0, 0.78],
                ],
              ],
              10,
            ),
          ]),
        ),
        uvChannels: 0,
      },
    ],
  }),
}
