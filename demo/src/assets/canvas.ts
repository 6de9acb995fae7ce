import { bevelBox } from '../shape/bevelBox'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { loft, tube } from '../shape/sweep'
import { tinted } from '../surface/spoiledTextures'
import { paintedIron, planks, wovenCanvas } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

const HALF = 1.4,
  FRONT = 0.62,
  BACK = -0.62

/** The cloth of the awning: from the back bar down to the front bar, sagging between them, then a valance. */
function roof(): Piece {
  const across = 24
  const at = (i: number, t: number): Vec3 => {
    const u = i / across,
      x = -HALF - 0.06 + u * 2 * (HALF + 0.06)
    const sag = 0.07 * Math.sin(Math.PI * u) * Math.sin(Math.PI * t)
    return [x, 2.42 - 0.4 * t - sag, BACK + (FRONT - BACK) * t]
  }
  const top = loft(
    Array.from({ length: across + 1 }, (_, i) => Array.from({ length: 9 }, (_, j) => at(i, j / 8))),
    [2.9, 1.3],
    true,
  )
  const valance = loft(
    Array.from({ length: across * 2 + 1 }, (_, i): Vec3[] => {
      const [x, y, z] = at(i / 2, 1)
      const scallop = 0.06 * Math.abs(Math.sin((i / (across * 2)) * Math.PI * 9))
      return [0, 0.5, 1].map((t): Vec3 => [x, y - t * (0.16 + scallop), z + 0.015 * Math.sin(i) * t])
    }),
    [2.9, 0.22],
    true,
  )
  return joinPieces([top, valance])
}

const bar = (from: Vec3, to: Vec3, radius: number): Piece => tube([from, to], radius, 10)

function frame(): Piece {
  const posts = [-HALF, HALF].flatMap((x) => [
    bar([x, 0.03, FRONT], [x, 2.01, FRONT], 0.028),
    bar([x, 0.03, BACK], [x, 2.41, BACK], 0.028),
    placed(bevelBox([0.16, 0.04, 0.16], 0.008, 2), [x, 0.02, FRONT]),
    placed(bevelBox([0.16, 0.04, 0.16], 0.008, 2), [x, 0.02, BACK]),
    bar([x * 0.97, 2.41, BACK + 0.01], [x * 0.97, 2.03, FRONT - 0.01], 0.02),
    bar([x, 1.5, BACK], [x, 1.95, BACK + 0.45], 0.014),
  ])
  return joinPieces([
    ...posts,
    bar([-HALF, 2.42, BACK], [HALF, 2.42, BACK], 0.022),
    bar([-HALF, 2.02, FRONT], [HALF, 2.02, FRONT], 0.022),
  ])
}

const CANVAS = 'harbour_awning_canvas'
const canvasSlot = (weather: string, basecolor: string | null, roughness: number) => ({
  name: `awning-${weather}`,
  textures: { stem: CANVAS, files: { basecolor } },
  doubleSided: true,
  metallic: 0,
  roughness,
  sheetsPerMetre: 2,
})

/**
 * Canvas in three weathers over one normal map, as variants of the file; the mossy one has no base colour.
 */
export const awning: AssetPlan = {
  name: 'harbour_awning_a',
  folder: 'props',
  delivery: 2,
  surfaces: {
    [CANVAS]: { surface: wovenCanvas(151, [214, 206, 186], [46, 92, 104], 5), size: 256 },
    harbour_awning_frame: { surface: paintedIron(157, [52, 62, 66]), size: 256 },
  },
  leaveOut: { [CANVAS]: ['basecolor'] },
  more: (painted) => {
    const { basecolor } = painted[CANVAS]!
    return {
      harbour_awning_dry_basecolor: basecolor,
      harbour_awning_wet_basecolor: tinted(basecolor, [44, 58, 66], 0.45),
    }
  },
  mesh: () => ({
    slots: [
      canvasSlot('dry', 'harbour_awning_dry_basecolor', 1),
      canvasSlot('wet', 'harbour_awning_wet_basecolor', 0.55),
      { ...canvasSlot('mossy', null, 1), colour: [0.21, 0.3, 0.12, 1] },
      {
        name: 'awning-frame',
        textures: { stem: 'harbour_awning_frame' },
        metallic: 0,
        sheetsPerMetre: 2,
      },
    ],
    variants: [
      { name: 'dry', slot: 'awning-dry', wears: 'awning-dry' },
      { name: 'wet', slot: 'awning-dry', wears: 'awning-wet' },
      { name: 'mossy', slot: 'awning-dry', wears: 'awning-mossy' },
    ],
    parts: [
      {
        name: 'harbour_awning_a',
        surface: { 'awning-dry': roof(), 'awning-frame': frame() },
        uvChannels: 1,
      },
      {
        name: 'harbour_awning_a_hull',
        surface: withoutSlot(
          joinPieces([
            ...[-HALF, HALF].flatMap((x) => [
              placed(bevelBox([0.17, 2.06, 0.17], 0.008, 1), [x, 1.03, FRONT]),
              placed(bevelBox([0.17, 2.46, 0.17], 0.008, 1), [x, 1.23, BACK]),
            ]),
            placed(bevelBox([2.94, 0.68, 1.34], 0.01, 1), [0, 2.12, 0]),
          ]),
        ),
        uvChannels: 0,
      },
    ],
  }),
}

/** Half the outline of the cover at a place along the boom, from its foot over the top to the other foot. */
const outline = (x: number, steps: number): Vec3[] =>
  Array.from({ length: steps + 1 }, (_, j): Vec3 => {
    const a = (j / steps) * Math.PI * 1.72 + Math.PI * 1.36
    const swell = 0.16 + 0.03 * Math.cos(x * 2.1) - 0.02 * x
    const fold = 1 + 0.05 * Math.sin(x * 17) * Math.sin(a)
    return [x, 0.86 + Math.cos(a) * swell * 1.25 * fold, Math.sin(a) * swell * fold]
  })

/** One panel of the cover; `across`: its cloth was cut with the grain the other way. */
function panel(from: number, to: number, across: boolean): Piece {
  const steps = 10
  const piece = loft(
    Array.from({ length: steps + 1 }, (_, i) => outline(from + ((to - from) * i) / steps, 16)),
    [to - from, 1],
    true,
  )
  return across ? { ...piece, uvs: turnedQuarter(piece.uvs) } : piece
}

/** The texture lies a quarter turn round. */
const turnedQuarter = (uvs: readonly number[]): number[] =>
  uvs.map((_, k) => (k % 2 === 0 ? uvs[k + 1]! : -uvs[k - 1]!))

const trestle = (x: number): Piece =>
  joinPieces(
    [-0.2, 0.2].map((z) =>
      tube(
        [
          [x, 0, z],
          [x, 0.68, -z * 0.12],
        ],
        0.022,
        8,
      ),
    ),
  )

/** Woven cloth whose grain runs across on one of three panels. */
export const sailCover: AssetPlan = {
  name: 'harbour_sail_cover_a',
  folder: 'props',
  delivery: 2,
  surfaces: {
    harbour_sail_cover_cloth: { surface: wovenCanvas(163, [38, 62, 104], [44, 70, 116], 2), size: 256 },
    harbour_sail_cover_boom: { surface: planks(167, 3, [176, 132, 84], [140, 104, 66]), size: 256 },
  },
  mesh: () => ({
    slots: [
      {
        name: 'cover-cloth',
        textures: { stem: 'harbour_sail_cover_cloth' },
        doubleSided: true,
        metallic: 0,
        sheetsPerMetre: 2,
      },
      {
        name: 'cover-boom',
        textures: { stem: 'harbour_sail_cover_boom' },
        metallic: 0,
        sheetsPerMetre: 2,
      },
    ],
    parts: [
      {
        name: 'harbour_sail_cover_a',
        surface: {
          'cover-cloth': joinPieces([
            panel(-1.2, -0.4, false),
            panel(-0.4, 0.4, true),
            panel(0.4, 1.2, false),
          ]),
          'cover-boom': joinPieces([
            tube(
              [
                [-1.35, 0.72, 0],
                [1.35, 0.72, 0],
              ],
              0.05,
              14,
            ),
            trestle(-0.9),
            trestle(0.9),
          ]),
        },
        uvChannels: 1,
      },
      {
        name: 'harbour_sail_cover_a_hull',
        surface: withoutSlot(
          joinPieces([
            placed(bevelBox([2.44, 0.48, 0.44], 0.02, 1), [0, 0.88, 0]),
            placed(bevelBox([2.72, 0.14, 0.14], 0.01, 1), [0, 0.72, 0]),
            placed(bevelBox([0.08, 0.72, 0.48], 0.01, 1), [-0.9, 0.36, 0]),
            placed(bevelBox([0.08, 0.72, 0.48], 0.01, 1), [0.9, 0.36, 0]),
          ]),
        ),
        uvChannels: 0,
      },
    ],
  }),
}
