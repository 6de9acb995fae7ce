import { bevelBox } from '../shape/bevelBox'
import { lathe } from '../shape/lathe'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { tube } from '../shape/sweep'
import { invertedGreen, otherOrder } from '../surface/spoiledTextures'
import { paintedIron, planks } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

const buoyBody = (n: number): Piece =>
  joinPieces([
    lathe(
      [
        [
          [0, 0],
          [0.5, 0.02],
        ],
        [
          [0.5, 0.02],
          [0.72, 0.2],
          [0.8, 0.5],
        ],
        [
          [0.8, 0.5],
          [0.84, 0.54],
          [0.84, 0.6],
        ],
        [
          [0.84, 0.6],
          [0.6, 0.68],
          [0.22, 0.74],
        ],
      ],
      n,
      [2, 1],
    ),
    lathe(
      [
        [
          [0.22, 0.74],
          [0.2, 1.5],
          [0.16, 2.1],
        ],
        [
          [0.16, 2.1],
          [0.24, 2.12],
          [0.24, 2.18],
        ],
        [
          [0.24, 2.18],
          [0, 2.18],
        ],
      ],
      n,
      [1, 1.2],
    ),
  ])

const cage = (sides: number): Piece =>
  joinPieces(
    [0, 1, 2, 3].map((i) => {
      const a = (i / 4) * Math.PI * 2 + 0.4
      const at = (r: number, y: number): Vec3 => [Math.cos(a) * r, y, Math.sin(a) * r]
      return tube([at(0.62, 0.66), at(0.5, 1.2), at(0.32, 1.8), at(0.22, 2.14)], 0.022, sides)
    }),
  )

const lens = (n: number): Piece =>
  lathe(
    [
      [
        [0.12, 2.18],
        [0.15, 2.25],
        [0.15, 2.4],
        [0.1, 2.5],
        [0, 2.54],
      ],
    ],
    n,
  )
const lamp = (n: number): Piece =>
  lathe(
    [
      [
        [0, 2.2],
        [0.05, 2.2],
        [0.06, 2.3],
        [0.03, 2.4],
        [0, 2.42],
      ],
    ],
    n,
  )

/** A gloss map is wired as roughness; lights and a camera were left in the file. */
export const navbuoy: AssetPlan = {
  name: 'harbour_navbuoy_a',
  folder: 'vessels',
  delivery: 2,
  surfaces: { harbour_navbuoy_a: { surface: paintedIron(71, [168, 44, 36]), size: 512 } },
  leaveOut: { harbour_navbuoy_a: ['orm'] },
  more: (painted) => ({ harbour_navbuoy_a_gloss: invertedGreen(painted['harbour_navbuoy_a']!.orm) }),
  mesh: () => ({
    slots: [
      {
        name: 'navbuoy-paint',
        textures: { stem: 'harbour_navbuoy_a', files: { orm: 'harbour_navbuoy_a_gloss' } },
        metallic: 0,
        sheetsPerMetre: 0.5,
      },
      {
        name: 'navbuoy-glass',
        colour: [0.86, 0.95, 0.92, 0.3],
        alpha: 'BLEND',
        roughness: 0.05,
        metallic: 0,
        glass: true,
      },
      { name: 'navbuoy-lamp', colour: [1, 0.86, 0.5, 1], emissive: [1, 0.7, 0.24], metallic: 0, glass: true },
    ],
    strays: ['light', 'light', 'camera'],
    parts: [
      {
        name: 'harbour_navbuoy_a',
        surface: {
          'navbuoy-paint': joinPieces([buoyBody(32), cage(8)]),
          'navbuoy-glass': lens(20),
          'navbuoy-lamp': lamp(12),
        },
        uvChannels: 1,
      },
      {
        name: 'harbour_navbuoy_a_lod1',
        surface: {
          'navbuoy-paint': joinPieces([buoyBody(14), cage(4)]),
          'navbuoy-glass': lens(10),
          'navbuoy-lamp': lamp(6),
        },
        uvChannels: 1,
      },
      {
        name: 'harbour_navbuoy_a_hull',
        surface: withoutSlot(
          joinPieces([
            lathe(
              [
                [
                  [0, 0],
                  [0.52, 0.02],
                  [0.86, 0.3],
                  [0.86, 0.6],
                  [0.66, 0.7],
                  [0, 0.7],
                ],
              ],
              10,
            ),
            lathe(
              [
                [
                  [0, 0.68],
                  [0.6, 0.68],
                  [0.26, 2.2],
                  [0.12, 2.5],
                  [0, 2.54],
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

const board = (): Piece => placed(bevelBox([0.34, 2.4, 0.06], 0.008, 0.6), [0, 1.2, -0.07])
const float = (n: number): Piece =>
  lathe(
    [
      [
        [0, -0.05],
        [0.05, -0.05],
      ],
      [
        [0.05, -0.05],
        [0.07, -0.02],
        [0.07, 0.02],
        [0.05, 0.05],
      ],
      [
        [0.05, 0.05],
        [0, 0.05],
      ],
    ],
    n,
    [0.5, 0.3],
  )

/** A clip that should loop; its packed texture has another channel order. */
export const tidegauge: AssetPlan = {
  name: 'harbour_tidegauge_a',
  folder: 'props',
  delivery: 2,
  surfaces: {
    harbour_tidegauge_board: { surface: planks(77, 6, [232, 228, 212], [150, 130, 100]), size: 512 },
    harbour_tidegauge_float: { surface: planks(79, 3, [196, 92, 40], [120, 84, 52]), size: 128 },
  },
  leaveOut: { harbour_tidegauge_float: ['orm'] },
  more: (painted) => ({ harbour_tidegauge_float_orm: otherOrder(painted['harbour_tidegauge_float']!.orm) }),
  mesh: () => ({
    slots: [
      { name: 'tidegauge-board', textures: { stem: 'harbour_tidegauge_board' }, metallic: 0 },
      { name: 'tidegauge-float', textures: { stem: 'harbour_tidegauge_float' }, sheetsPerMetre: 4 },
    ],
    clip: { name: 'tidegauge@rise', part: 'float', seconds: 4, rise: 1.4 },
    parts: [
      { name: 'harbour_tidegauge_a', surface: { 'tidegauge-board': board() }, uvChannels: 1 },
      {
        name: 'float',
        surface: { 'tidegauge-float': float(16) },
        uvChannels: 1,
        parent: 'harbour_tidegauge_a',
        translation: [0, 0.4, 0.03],
      },
      {
        name: 'harbour_tidegauge_a_hull',
        surface: withoutSlot(placed(bevelBox([0.36, 2.42, 0.22], 0.01, 1), [0, 1.21, 0])),
        uvChannels: 0,
      },
    ],
  }),
}
