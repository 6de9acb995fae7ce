import { lathe } from '../shape/lathe'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { tube } from '../shape/sweep'
import type { PaintedSet } from '../surface/paint'
import { bareMetal } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

/** Tank, burner, hood and ring. */
const metalwork = (segments: number): Piece =>
  joinPieces([
    lathe(
      [
        [
          [0, 0],
          [0.098, 0],
        ],
        [
          [0.098, 0],
          [0.104, 0.008],
          [0.104, 0.016],
        ],
        [
          [0.104, 0.016],
          [0.098, 0.022],
        ],
        [
          [0.098, 0.022],
          [0.1, 0.05],
          [0.092, 0.072],
          [0.072, 0.082],
        ],
        [
          [0.072, 0.082],
          [0.045, 0.086],
          [0.042, 0.108],
        ],
        [
          [0.042, 0.108],
          [0.058, 0.112],
          [0.058, 0.122],
        ],
        [
          [0.058, 0.122],
          [0, 0.124],
        ],
      ],
      segments,
      [3, 1.5],
    ),
    lathe(
      [
        [
          [0, 0.262],
          [0.06, 0.262],
        ],
        [
          [0.06, 0.262],
          [0.066, 0.266],
          [0.066, 0.276],
        ],
        [
          [0.066, 0.276],
          [0.05, 0.284],
          [0.046, 0.3],
        ],
        [
          [0.046, 0.3],
          [0.078, 0.306],
        ],
        [
          [0.078, 0.306],
          [0.07, 0.32],
          [0.036, 0.342],
          [0.016, 0.346],
        ],
        [
          [0.016, 0.346],
          [0.014, 0.358],
          [0, 0.36],
        ],
      ],
      segments,
      [2, 1],
    ),
  ])

const frame = (sides: number): Piece => {
  const pieces: Piece[] = []
  for (const side of [-1, 1]) {
    const path: Vec3[] = Array.from({ length: 13 }, (_, i) => {
      const t = i / 12
      return [side * (0.094 + 0.022 * Math.sin(t * Math.PI) - 0.03 * t * t), 0.03 + t * 0.262, 0]
    })
    pieces.push(tube(path, 0.0065, sides))
  }
  for (let i = 0; i < 4; i++) {
    const a = (i / 4) * Math.PI * 2 + Math.PI / 4
    pieces.push(
      tube(
        Array.from({ length: 9 }, (_, k) => {
          const t = k / 8,
            r = 0.058 + 0.03 * Math.sin(t * Math.PI)
          return [Math.cos(a) * r, 0.118 + t * 0.15, Math.sin(a) * r] satisfies Vec3
        }),
        0.0022,
        5,
      ),
    )
  }
  for (const y of [0.165, 0.215])
    pieces.push(
      tube(
        Array.from(
          { length: 24 },
          (_, k) =>
            [
              Math.cos((k / 24) * Math.PI * 2) * 0.083,
              y,
              Math.sin((k / 24) * Math.PI * 2) * 0.083,
            ] satisfies Vec3,
        ),
        0.002,
        5,
        true,
      ),
    )
  pieces.push(
    tube(
      Array.from(
        { length: 21 },
        (_, k) =>
          [
            Math.cos((k / 20) * Math.PI) * 0.09,
            0.29 + Math.sin((k / 20) * Math.PI) * 0.13,
            0.012 * Math.sin((k / 20) * Math.PI),
          ] satisfies Vec3,
      ),
      0.0032,
      sides,
    ),
  )
  return joinPieces(pieces)
}

const chimney = (segments: number): Piece =>
  lathe(
    [
      [
        [0.05, 0.122],
        [0.062, 0.15],
        [0.07, 0.185],
        [0.066, 0.22],
        [0.052, 0.262],
      ],
    ],
    segments,
  )
const flame = (): Piece =>
  placed(
    lathe(
      [
        [
          [0, 0],
          [0.01, 0.01],
          [0.012, 0.022],
          [0.006, 0.04],
          [0, 0.056],
        ],
      ],
      10,
    ),
    [0, 0.13, 0],
  )

const embedded = (stem: string, set: PaintedSet) => ({
  embed: {
    basecolor: { name: `${stem}_basecolor`, bytes: set.basecolor },
    normal: { name: `${stem}_normal`, bytes: set.normal },
    orm: { name: `${stem}_orm`, bytes: set.orm },
  },
})

/** Textures embedded, normal map with green down, mask flagged sRGB. */
export const lantern: AssetPlan = {
  name: 'harbour_lantern_a',
  folder: 'props',
  delivery: 1,
  embedded: true,
  surfaces: {
    harbour_lantern_a: {
      surface: bareMetal(41, [196, 148, 74]),
      size: 256,
      options: { green: 'down', ormFlag: 'srgb' },
    },
  },
  mesh: (painted) => ({
    slots: [
      {
        name: 'lantern-brass',
        textures: embedded('harbour_lantern_a', painted['harbour_lantern_a']!),
        sheetsPerMetre: 2,
      },
      {
        name: 'lantern-glass',
        colour: [0.92, 0.96, 0.9, 0.22],
        alpha: 'BLEND',
        roughness: 0.08,
        metallic: 0,
        glass: true,
        doubleSided: true,
      },
    ],
    parts: [
      {
        name: 'harbour_lantern_a',
        surface: {
          'lantern-brass': joinPieces([metalwork(28), frame(7), flame()]),
          'lantern-glass': chimney(20),
        },
        uvChannels: 1,
      },
      {
        name: 'harbour_lantern_a_lod1',
        surface: { 'lantern-brass': joinPieces([metalwork(12), frame(3)]), 'lantern-glass': chimney(10) },
        uvChannels: 1,
      },
      {
        name: 'harbour_lantern_a_hull',
        surface: withoutSlot(
          lathe(
            [
              [
                [0, 0],
                [0.105, 0],
                [0.115, 0.16],
                [0.1, 0.3],
                [0.03, 0.42],
                [0, 0.42],
              ],
            ],
            8,
          ),
        ),
        uvChannels: 0,
      },
    ],
  }),
}

/** The lantern as it came again: a slot renamed, and everything moved, so that the pivot stands beside it. */
export const lanternAgain: AssetPlan = {
  ...lantern,
  delivery: 3,
  mesh: (painted) => {
    const first = lantern.mesh(painted)
    const renamed = (slot: string): string => (slot === 'lantern-brass' ? 'lantern-metal' : slot)
    return {
      ...first,
      slots: first.slots.map((s) => ({ ...s, name: renamed(s.name) })),
      parts: first.parts.map((p) => ({
        ...p,
        surface: Object.fromEntries(
          Object.entries(p.surface).map(([slot, piece]) => [renamed(slot), placed(piece!, [0.15, 0, 0])]),
        ),
      })),
    }
  },
}
