import { bevelBox } from '../shape/bevelBox'
import { lathe } from '../shape/lathe'
import { addVertex, emptyPiece, onSheet, placed, type Piece, type Vec3 } from '../shape/piece'
import { tube } from '../shape/sweep'
import { evenDensity, tidy } from '../shape/tidy'
import { srgb, tinted } from '../surface/spoiledTextures'
import { castStone, planks, signalCloth } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

/** A wall of six blocks, each painted by the tile of its number; leaning back, with a kerb. */
function wall(rows: number): Piece {
  const piece = emptyPiece()
  const lean = (y: number): number => 0.5 - 0.12 * (y / 2.4)
  for (let block = 0; block < 6; block++) {
    const x0 = -6 + block * 2,
      first = piece.positions.length / 3
    for (let i = 0; i <= rows; i++)
      for (let j = 0; j <= 4; j++) {
        const y = (i / rows) * 2.4,
          x = x0 + (j / 4) * 2
        addVertex(
          piece,
          [x, y, lean(y)],
          [0, 0.04, 0.999],
          [block + 0.02 + 0.96 * (j / 4), 0.02 + 0.96 * (1 - i / rows)],
          [(block + 0.04 + 0.92 * (j / 4)) / 6, 0.02 + 0.6 * (1 - i / rows)],
        )
      }
    for (let i = 0; i < rows; i++)
      for (let j = 0; j < 4; j++) {
        const v = first + i * 5 + j
        piece.indices.push(v, v + 1, v + 6, v, v + 6, v + 5)
      }
  }
  return piece
}

const kerb = (): Piece =>
  onSheet(placed(bevelBox([12, 0.3, 0.9], 0.02, 0.4), [0, 2.55, 0.05]), [0.02, 0.66, 0.96, 0.3])
const tiles = [1001, 1002, 1003, 1005, 1006]

/** Tile set 1001 to 1006 with 1004 missing. */
export const seawall: AssetPlan = {
  name: 'harbour_seawall_a',
  folder: 'structures',
  delivery: 2,
  surfaces: {
    harbour_seawall: { surface: castStone(83), size: 256 },
    harbour_seawall_kerb: { surface: castStone(85), size: 256 },
  },
  leaveOut: { harbour_seawall: ['basecolor'] },
  more: (painted) =>
    Object.fromEntries(
      tiles.map((n, i) => [
        `harbour_seawall_basecolor.${n}`,
        srgb(
          tinted(painted['harbour_seawall']!.basecolor, i % 2 ? [70, 92, 64] : [96, 92, 86], 0.12 + 0.06 * i),
        ),
      ]),
    ),
  mesh: () => ({
    slots: [
      {
        name: 'seawall-stone',
        textures: { stem: 'harbour_seawall', files: { basecolor: 'harbour_seawall_basecolor.1001' } },
        metallic: 0,
      },
      { name: 'seawall-kerb', textures: { stem: 'harbour_seawall_kerb' }, metallic: 0, sheetsPerMetre: 1 },
    ],
    parts: [
      {
        name: 'harbour_seawall_a',
        surface: { 'seawall-stone': wall(6), 'seawall-kerb': kerb() },
        uvChannels: 2,
      },
      {
        name: 'harbour_seawall_a_hull',
        surface: withoutSlot(placed(bevelBox([12.02, 2.72, 1], 0.02, 1), [0, 1.36, 0.05])),
        uvChannels: 0,
      },
    ],
  }),
}

const stone = (bevel: number): Record<string, Piece> => {
  const top = onSheet(placed(bevelBox([1.2, 0.12, 0.8], bevel, 0.5), [0, 0.54, 0]), [0.01, 0.01, 0.98, 0.3])
  const side = onSheet(placed(bevelBox([1.16, 0.4, 0.76], bevel, 0.5), [0, 0.28, 0]), [0.01, 0.34, 0.98, 0.3])
  const foot = onSheet(
    placed(bevelBox([1.24, 0.08, 0.84], bevel, 0.5), [0, 0.04, 0]),
    [0.01, 0.67, 0.98, 0.3],
  )
  const swap = (planned: Piece): Piece => {
    const piece = evenDensity(tidy(planned), 1.6)
    return { ...piece, uvs: piece.sheet, sheet: piece.uvs }
  }
  return { 'quaystone-top': swap(top), 'quaystone-side': swap(side), 'quaystone-foot': swap(foot) }
}

/**
 * Three weathers that share one normal map, of which the mesh uses one; its UV channels are the wrong way
 * round.
 */
export const quaystone: AssetPlan = {
  name: 'harbour_quaystone_a',
  folder: 'structures',
  delivery: 2,
  surfaces: { harbour_quaystone: { surface: castStone(89), size: 512 } },
  leaveOut: { harbour_quaystone: ['basecolor'] },
  more: (painted) => {
    const { basecolor } = painted['harbour_quaystone']!
    return {
      harbour_quaystone_dry_basecolor: srgb(tinted(basecolor, [150, 140, 124], 0.15)),
      harbour_quaystone_a_wet_basecolor: srgb(tinted(basecolor, [48, 54, 58], 0.45)),
      harbour_quaystone_a_weedy_basecolor: srgb(tinted(basecolor, [58, 86, 40], 0.5)),
    }
  },
  mesh: () => ({
    slots: [
      ['top', 0.95],
      ['side', 0.8],
      ['foot', 0.6],
    ].map(([part, roughness]) => ({
      name: `quaystone-${part}`,
      textures: { stem: 'harbour_quaystone', files: { basecolor: 'harbour_quaystone_dry_basecolor' } },
      metallic: 0,
      roughness: Number(roughness),
    })),
    parts: [
      { name: 'harbour_quaystone_a', surface: stone(0.015), uvChannels: 2 },
      {
        name: 'harbour_quaystone_a_hull',
        surface: withoutSlot(placed(bevelBox([1.24, 0.6, 0.84], 0.015, 1), [0, 0.3, 0])),
        uvChannels: 0,
      },
    ],
  }),
}

const rust = signalCloth(97)

/** A decal that comes without the surface that it belongs on. */
export const stainRust: AssetPlan = {
  name: 'harbour_stain_rust_a',
  folder: 'decals',
  delivery: 2,
  surfaces: {
    harbour_stain_rust_a: {
      surface: (u, v) => ({
        ...rust(u, v),
        colour: [122, 62, 30],
        alpha: Math.max(0, Math.min(1, 1.25 - 2.6 * Math.hypot(u - 0.5, v - 0.5))),
      }),
      size: 256,
      options: { alpha: true },
    },
  },
  leaveOut: { harbour_stain_rust_a: ['normal', 'orm', 'tint'] },
  mesh: () => {
    const piece = emptyPiece()
    for (const [x, y] of [
      [-0.3, -0.3],
      [0.3, -0.3],
      [0.3, 0.3],
      [-0.3, 0.3],
    ] as const)
      addVertex(piece, [x, y, 0], [0, 0, 1], [x / 0.6 + 0.5, 0.5 - y / 0.6])
    piece.indices.push(0, 1, 2, 0, 2, 3)
    return {
      slots: [
        {
          name: 'stain-rust',
          textures: { stem: 'harbour_stain_rust_a', files: { normal: null, orm: null } },
          alpha: 'BLEND',
          metallic: 0,
        },
      ],
      parts: [{ name: 'harbour_stain_rust_a', surface: { 'stain-rust': piece }, uvChannels: 1 }],
    }
  },
}

/** One long rope, wound in five turns out and three up. */
function coil(): Vec3[] {
  const points: Vec3[] = []
  const steps = 3750
  for (let i = 0; i <= steps; i++) {
    const t = i / steps,
      layer = Math.min(2, Math.floor(t * 3)),
      within = t * 3 - layer
    const r = 0.28 + 0.075 * 5 * (layer % 2 === 0 ? within : 1 - within),
      a = t * Math.PI * 2 * 15
    points.push([Math.cos(a) * r, 0.045 + layer * 0.075 + 0.01 * Math.sin(a * 3), Math.sin(a) * r])
  }
  return points
}

/** 90 000 triangles without a chain of levels; a lightmap channel that lies over itself. */
export const ropecoil: AssetPlan = {
  name: 'harbour_ropecoil_a',
  folder: 'structures',
  delivery: 2,
  surfaces: { harbour_ropecoil_a: { surface: planks(101, 14, [176, 150, 104], [120, 96, 60]), size: 256 } },
  mesh: () => {
    const rope = tube(coil(), 0.036, 12)
    return {
      slots: [
        { name: 'ropecoil-hemp', textures: { stem: 'harbour_ropecoil_a' }, metallic: 0, sheetsPerMetre: 1 },
      ],
      parts: [
        {
          name: 'harbour_ropecoil_a',
          surface: {
            'ropecoil-hemp': {
              ...rope,
              sheet: rope.sheet.map((v, k) => (k % 2 === 0 ? 0.01 + 0.98 * v : 0.01 + 0.98 * ((v * 7) % 1))),
            },
          },
          uvChannels: 2,
        },
        {
          name: 'harbour_ropecoil_a_hull',
          surface: withoutSlot(
            lathe(
              [
                [
                  [0, 0],
                  [0.7, 0],
                  [0.7, 0.26],
                  [0, 0.26],
                ],
              ],
              12,
            ),
          ),
          uvChannels: 0,
        },
      ],
    }
  },
}
