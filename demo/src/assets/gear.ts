import { bevelBox } from '../shape/bevelBox'
import { lathe } from '../shape/lathe'
import { joinPieces, layAlongX, placed, turnedY, type Piece, type Vec3 } from '../shape/piece'
import { tube } from '../shape/sweep'
import { blownUp, greyBump, oneChannel, srgb } from '../surface/spoiledTextures'
import { bareMetal, planks } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

const blade = (): Piece => placed(bevelBox([0.62, 0.03, 0.15], 0.008, 0.8), [0.88, 0.03, 0])
const shaft = (n: number): Piece =>
  placed(
    lathe(
      [
        [
          [0, -1.19],
          [0.02, -1.19],
        ],
        [
          [0.02, -1.19],
          [0.026, -1.1],
          [0.022, -0.9],
        ],
        [
          [0.022, -0.9],
          [0.028, 0],
          [0.024, 0.6],
        ],
        [
          [0.024, 0.6],
          [0, 0.6],
        ],
      ],
      n,
      [0.3, 1.6],
    ),
    [0, 0.03, 0],
    layAlongX,
  )

/** A nameless second copy of an oar, with slots as numbered defaults. */
export const oar: AssetPlan = {
  name: 'Skiff final 2 (new)',
  folder: 'props',
  delivery: 2,
  surfaces: { harbour_skiff_oar: { surface: planks(103, 2, [186, 140, 84], [130, 94, 58]), size: 256 } },
  mesh: () => ({
    slots: [
      { name: 'Material.001', textures: { stem: 'harbour_skiff_oar' }, metallic: 0, sheetsPerMetre: 2 },
      { name: 'Material.002', textures: { stem: 'harbour_skiff_oar' }, metallic: 0, sheetsPerMetre: 2 },
    ],
    parts: [{ name: 'oar', surface: { 'Material.001': shaft(12), 'Material.002': blade() }, uvChannels: 1 }],
  }),
}

const hoop = (r: number, y: number, sides: number): Piece =>
  tube(
    Array.from(
      { length: 28 },
      (_, i) =>
        [Math.cos((i / 28) * Math.PI * 2) * r, y, Math.sin((i / 28) * Math.PI * 2) * r] satisfies Vec3,
    ),
    0.012,
    sides,
    true,
  )
const strut = (turn: number, sides: number): Piece =>
  placed(
    tube(
      [
        [0.34, 0.02, 0],
        [0.34, 0.2, 0],
        [0.26, 0.4, 0],
        [0.12, 0.46, 0],
      ],
      0.01,
      sides,
    ),
    [0, 0, 0],
    turnedY(turn),
  )
const pot = (sides: number, struts: number): Piece =>
  joinPieces([
    hoop(0.34, 0.02, sides),
    hoop(0.34, 0.2, sides),
    hoop(0.26, 0.4, sides),
    hoop(0.12, 0.46, sides),
    ...Array.from({ length: struts }, (_, i) => strut((i / struts) * Math.PI * 2, sides)),
  ])
const floor = (): Piece =>
  lathe(
    [
      [
        [0, 0.008],
        [0.34, 0.008],
      ],
      [
        [0.34, 0.008],
        [0.34, 0.024],
      ],
      [
        [0.34, 0.024],
        [0, 0.024],
      ],
    ],
    24,
    [1, 0.4],
  )

/**
 * A texture of 300 × 500, a base colour that was blown up, and four thousand texels a side of one roughness.
 */
export const crabpot: AssetPlan = {
  name: 'harbour_crabpot_a',
  folder: 'props',
  delivery: 2,
  surfaces: {
    harbour_crabpot_cage: { surface: bareMetal(107, [112, 104, 96]), size: 256 },
    harbour_crabpot_floor: { surface: planks(109, 7, [150, 116, 74], [96, 72, 46]), size: 256 },
  },
  leaveOut: { harbour_crabpot_cage: ['orm'], harbour_crabpot_floor: ['basecolor'] },
  more: (painted) => ({
    harbour_crabpot_cage_roughness: oneChannel(4096, () => 168),
    harbour_crabpot_floor_basecolor: srgb(blownUp(painted['harbour_crabpot_floor']!.basecolor, 2)),
  }),
  mesh: () => ({
    slots: [
      {
        name: 'crabpot-cage',
        textures: { stem: 'harbour_crabpot_cage', files: { orm: 'harbour_crabpot_cage_roughness' } },
        metallic: 0,
        sheetsPerMetre: 2,
      },
      { name: 'crabpot-floor', textures: { stem: 'harbour_crabpot_floor' }, metallic: 0, sheetsPerMetre: 2 },
    ],
    parts: [
      {
        name: 'harbour_crabpot_a',
        surface: { 'crabpot-cage': pot(5, 8), 'crabpot-floor': floor() },
        uvChannels: 1,
      },
      {
        name: 'harbour_crabpot_a_lod1',
        surface: { 'crabpot-cage': pot(3, 4), 'crabpot-floor': floor() },
        uvChannels: 1,
      },
      {
        name: 'harbour_crabpot_a_hull',
        surface: withoutSlot(
          lathe(
            [
              [
                [0, 0],
                [0.36, 0],
                [0.36, 0.22],
                [0.28, 0.42],
                [0.13, 0.48],
                [0, 0.48],
              ],
            ],
            10,
          ),
        ),
        uvChannels: 0,
      },
    ],
  }),
}

const table = (): Piece =>
  joinPieces([
    placed(bevelBox([1.6, 0.05, 1], 0.01, 0.7), [0, 0.82, 0]),
    ...[-1, 1].flatMap((x) =>
      [-1, 1].map((z) => placed(bevelBox([0.09, 0.8, 0.09], 0.01, 0.7), [x * 0.7, 0.4, z * 0.4])),
    ),
    ...[-1, 1].map((z) => placed(bevelBox([1.32, 0.1, 0.04], 0.006, 0.7), [0, 0.74, z * 0.4])),
  ])

/** A specular and gloss set, and a grey bump map in the normal input. */
export const chartTable: AssetPlan = {
  name: 'harbour_chart_table_a',
  folder: 'props',
  delivery: 2,
  surfaces: { harbour_chart_table_a: { surface: planks(113, 5, [124, 82, 48], [84, 54, 30]), size: 512 } },
  leaveOut: { harbour_chart_table_a: ['normal', 'orm'] },
  more: (painted) => ({
    harbour_chart_table_a_normal: greyBump(painted['harbour_chart_table_a']!.basecolor),
    harbour_chart_table_specular_tint: greyBump(painted['harbour_chart_table_a']!.orm),
  }),
  mesh: () => ({
    slots: [
      {
        name: 'chart_table-wood',
        textures: { stem: 'harbour_chart_table_a', files: { basecolor: null, orm: null } },
        metallic: 0,
        specularGloss: {
          diffuse: 'harbour_chart_table_a_basecolor',
          specular: 'harbour_chart_table_specular_tint',
        },
      },
    ],
    parts: [
      { name: 'harbour_chart_table_a', surface: { 'chart_table-wood': table() }, uvChannels: 1 },
      {
        name: 'harbour_chart_table_a_hull',
        surface: withoutSlot(placed(bevelBox([1.6, 0.85, 1], 0.02, 1), [0, 0.425, 0])),
        uvChannels: 0,
      },
    ],
  }),
}
