import { bevelBox } from '../shape/bevelBox'
import { lathe } from '../shape/lathe'
import { joinPieces, layAlongX, layAlongZ, placed, type Piece, type Vec3 } from '../shape/piece'
import { extrude, tube } from '../shape/sweep'
import { tidy } from '../shape/tidy'
import { bareMetal, paintedIron } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

/** Outline of a toothed wheel. */
function gear(teeth: number, radius: number, tooth: number): [number, number][] {
  return Array.from({ length: teeth * 4 }, (_, i) => {
    const r = i % 4 === 1 || i % 4 === 2 ? radius + tooth : radius
    const a = ((i - (i % 4 === 0 ? 0.25 : i % 4 === 3 ? -0.25 : 0)) / (teeth * 4)) * Math.PI * 2
    return [r * Math.cos(a), r * Math.sin(a)]
  })
}

/** A cheek plate, leaning in to a rounded top. */
const cheekOutline: [number, number][] = [
  [-0.3, -0.34],
  [0.3, -0.34],
  [0.3, -0.28],
  ...Array.from({ length: 13 }, (_, i) => {
    const a = (i / 12) * Math.PI
    return [Math.cos(a) * 0.15, 0.08 + Math.sin(a) * 0.15] satisfies [number, number]
  }),
  [-0.3, -0.28],
]

const cheek = (): Piece =>
  joinPieces([
    placed(
      extrude(cheekOutline, 0.03, 2),
      [0, 0, 0],
      [
        [0, 0, -1],
        [0, 1, 0],
        [1, 0, 0],
      ],
    ),
    placed(
      lathe(
        [
          [
            [0.07, 0],
            [0.07, 0.05],
          ],
          [
            [0.07, 0.05],
            [0.06, 0.06],
          ],
          [
            [0.06, 0.06],
            [0, 0.06],
          ],
        ],
        20,
      ),
      [-0.015, 0.08, 0],
      layAlongXBack,
    ),
  ])
const layAlongXBack: [Vec3, Vec3, Vec3] = [
  [0, 1, 0],
  [-1, 0, 0],
  [0, 0, 1],
]

const drum = (): Piece =>
  placed(
    lathe(
      [
        [
          [0.05, -0.29],
          [0.2, -0.29],
        ],
        [
          [0.2, -0.29],
          [0.2, -0.26],
        ],
        [
          [0.2, -0.26],
          [0.12, -0.25],
        ],
        [
          [0.12, -0.25],
          [0.1, -0.18],
          [0.095, 0],
          [0.1, 0.18],
          [0.12, 0.25],
        ],
        [
          [0.12, 0.25],
          [0.2, 0.26],
        ],
        [
          [0.2, 0.26],
          [0.2, 0.29],
        ],
        [
          [0.2, 0.29],
          [0.05, 0.29],
        ],
      ],
      28,
    ),
    [0, 0.42, 0],
    layAlongX,
  )

/** Rope on the drum: one long winding. */
const rope = (): Piece =>
  tube(
    Array.from({ length: 181 }, (_, i) => {
      const a = (i / 18) * Math.PI * 2
      return [-0.2 + (i / 180) * 0.4, 0.42 + Math.cos(a) * 0.122, Math.sin(a) * 0.122] satisfies Vec3
    }),
    0.02,
    6,
  )

const crank = (): Piece =>
  joinPieces([
    tube(
      [
        [0.3, 0.42, 0],
        [0.44, 0.42, 0],
      ],
      0.022,
      10,
    ),
    placed(bevelBox([0.028, 0.3, 0.05], 0.006, 1), [0.44, 0.55, 0]),
    placed(
      lathe(
        [
          [
            [0, 0],
            [0.018, 0],
          ],
          [
            [0.018, 0],
            [0.024, 0.05],
            [0.02, 0.12],
            [0.012, 0.13],
          ],
          [
            [0.012, 0.13],
            [0, 0.132],
          ],
        ],
        12,
      ),
      [0.45, 0.68, 0],
      layAlongX,
    ),
  ])

/**
 * Doubled points are planted by splitting triangles apart here and there; slivers without an area stand in
 * the frame.
 */
function spoil(piece: Piece): Piece {
  const out: Piece = {
    positions: [...piece.positions],
    normals: [...piece.normals],
    uvs: [...piece.uvs],
    sheet: [...piece.sheet],
    indices: [...piece.indices],
  }
  for (let t = 0; t * 3 < piece.indices.length; t += 5) {
    const v = piece.indices[t * 3]!
    out.indices[t * 3] = out.positions.length / 3
    out.positions.push(...piece.positions.slice(v * 3, v * 3 + 3))
    out.normals.push(...piece.normals.slice(v * 3, v * 3 + 3))
    out.uvs.push(0, 0)
    out.sheet.push(0, 0)
  }
  for (let i = 0; i < 6; i++) out.indices.push(i * 4, i * 4 + 1, i * 4)
  return out
}

const frame = (): Piece =>
  joinPieces([
    placed(bevelBox([0.78, 0.06, 0.08], 0.012, 1), [0, 0.03, 0.26]),
    placed(bevelBox([0.78, 0.06, 0.08], 0.012, 1), [0, 0.03, -0.26]),
    placed(
      extrude(gear(24, 0.17, 0.02), 0.035, 2),
      [-0.36, 0.42, 0],
      [
        [0, 0, -1],
        [0, 1, 0],
        [1, 0, 0],
      ],
    ),
    placed(
      extrude(gear(10, 0.06, 0.018), 0.05, 2),
      [-0.365, 0.2, 0.13],
      [
        [0, 0, -1],
        [0, 1, 0],
        [1, 0, 0],
      ],
    ),
    placed(
      lathe(
        [
          [
            [0, 0],
            [0.02, 0],
          ],
          [
            [0.02, 0],
            [0.02, 0.06],
          ],
          [
            [0.02, 0.06],
            [0, 0.06],
          ],
        ],
        10,
      ),
      [0.12, 0.06, 0.26],
      layAlongZ,
    ),
  ])

/** The crank stands out on one side; this brings the base centre to the origin. */
const centred: Vec3 = [-0.0944, 0, 0]

/** No UVs, doubled points, triangles without an area, one cheek mirrored by a negative scale. */
export const winch: AssetPlan = {
  name: 'harbour_winch_a',
  folder: 'props',
  delivery: 1,
  split: true,
  surfaces: {
    harbour_winch_iron: { surface: paintedIron(53, [134, 52, 40]), size: 256 },
    harbour_winch_steel: { surface: bareMetal(59, [150, 152, 150]), size: 256 },
  },
  mesh: () => ({
    slots: [
      { name: 'winch-iron', textures: { stem: 'harbour_winch_iron' } },
      { name: 'winch-steel', textures: { stem: 'harbour_winch_steel' } },
    ],
    parts: [
      {
        name: 'harbour_winch_a',
        surface: {
          'winch-iron': spoil(tidy(placed(frame(), centred))),
          'winch-steel': tidy(placed(joinPieces([drum(), crank(), rope()]), centred)),
        },
        uvChannels: 0,
        untidy: true,
      },
      {
        name: 'cheek_left',
        surface: { 'winch-iron': cheek() },
        uvChannels: 0,
        parent: 'harbour_winch_a',
        translation: [-0.32 + centred[0], 0.34, 0],
      },
      {
        name: 'cheek_right',
        surface: { 'winch-iron': cheek() },
        uvChannels: 0,
        parent: 'harbour_winch_a',
        translation: [0.32 + centred[0], 0.34, 0],
        scale: [-1, 1, 1],
      },
      {
        name: 'harbour_winch_a_lod1',
        surface: {
          'winch-iron': placed(bevelBoxAt([0.72, 0.6, 0.6]), centred),
          'winch-steel': placed(joinPieces([drum(), crank()]), centred),
        },
        uvChannels: 0,
      },
      { name: 'harbour_winch_a_hull', surface: withoutSlot(bevelBoxAt([0.97, 0.7, 0.62])), uvChannels: 0 },
    ],
  }),
}

function bevelBoxAt(size: Vec3): Piece {
  return placed(bevelBox(size, 0.02, 1), [0, size[1] / 2, 0])
}
