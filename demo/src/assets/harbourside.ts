import { bevelBox } from '../shape/bevelBox'
import { lathe, type Profile } from '../shape/lathe'
import { addVertex, emptyPiece, joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { tube } from '../shape/sweep'
import { planks } from '../surface/surfaces'
import { cloudNoise, step } from '../surface/noise'
import { mix, type Surface } from '../surface/paint'
import type { AssetPlan } from './assetPlan'
import { withoutSlot } from './buildMesh'

/** A profile of straight strips between points, each with an edge to the next. */
const strips = (points: readonly [number, number][]): Profile =>
  points.slice(1).map((to, i) => [points[i]!, to])

const round = (from: number, to: number, steps: number, at: (angle: number) => [number, number]) =>
  Array.from({ length: steps + 1 }, (_, i) => at(((from + ((to - from) * i) / steps) * Math.PI) / 180))

/** A ring of rope around the upright axis. */
const hoop = (radius: number, y: number, thick: number, steps = 20): Piece =>
  tube(
    Array.from({ length: steps }, (_, i) => {
      const a = (i / steps) * Math.PI * 2
      return [Math.cos(a) * radius, y, Math.sin(a) * radius] satisfies Vec3
    }),
    thick,
    6,
    true,
  )

function fenderBody(): Piece {
  const body = lathe(
    [
      [
        [0, 0.06],
        [0.1, 0.06],
      ],
      [
        [0.1, 0.06],
        ...round(-70, 70, 12, (a) => [0.1 + 0.075 * Math.cos(a), 0.35 + 0.29 * Math.sin(a)]).slice(1, -1),
        [0.1, 0.64],
      ],
      [
        [0.1, 0.64],
        [0, 0.64],
      ],
    ],
    28,
  )
  const eye = tube(
    Array.from({ length: 16 }, (_, i) => {
      const a = (i / 16) * Math.PI * 2
      return [Math.cos(a) * 0.045, 0.69 + Math.sin(a) * 0.045, 0] satisfies Vec3
    }),
    0.014,
    8,
    true,
  )
  return joinPieces([body, eye])
}

/** Modelled and never laid out: no UVs at all. */
export const fender: AssetPlan = {
  name: 'harbour_fender_a',
  folder: 'props',
  delivery: 2,
  surfaces: {},
  mesh: () => ({
    slots: [
      { name: 'fender-rubber', colour: [0.055, 0.055, 0.06, 1], roughness: 0.7, metallic: 0 },
      { name: 'fender-rope', colour: [0.42, 0.31, 0.17, 1], roughness: 0.9, metallic: 0 },
    ],
    parts: [
      {
        name: 'harbour_fender_a',
        surface: {
          'fender-rubber': placed(fenderBody(), [0, -0.06, 0]),
          'fender-rope': joinPieces(
            [0.14, 0.29, 0.44].map((y) => hoop(y === 0.29 ? 0.182 : 0.168, y, 0.012)),
          ),
        },
        uvChannels: 0,
      },
      {
        name: 'harbour_fender_a_hull',
        surface: withoutSlot(
          lathe(
            strips([
              [0, -0.01],
              [0.19, 0.06],
              [0.21, 0.29],
              [0.19, 0.52],
              [0.08, 0.7],
              [0, 0.71],
            ]),
            10,
          ),
        ),
        uvChannels: 0,
      },
    ],
  }),
}

function bellSurfaces(): Record<string, Piece> {
  const dome = lathe(
    [[[0.62, 0.5], ...round(0, 90, 8, (a) => [0.62 * Math.cos(a), 1.15 + 0.5 * Math.sin(a)])]] as Profile,
    28,
    [2, 1],
  )
  const bands = joinPieces([0.56, 1.12].map((y) => hoop(0.635, y, 0.03)))
  const apron = lathe(
    [
      [
        [0.66, 0],
        [0.64, 0.25],
        [0.62, 0.5],
      ],
    ],
    28,
    [2, 0.4],
  )
  const ports = [0, 90, 180, 270].map((degrees) => {
    const a = (degrees * Math.PI) / 180,
      [c, s] = [Math.cos(a), Math.sin(a)]
    // The disc's upright axis points outward
    const axes: [Vec3, Vec3, Vec3] = [
      [0, 1, 0],
      [c, 0, s],
      [s, 0, -c],
    ]
    const glass = placed(
      lathe(
        [
          [
            [0.1, 0.02],
            [0.05, 0.035],
            [0, 0.038],
          ],
        ],
        20,
      ),
      [c * 0.61, 0.86, s * 0.61],
      axes,
    )
    const rim = placed(hoop(0.115, 0.02, 0.02, 12), [c * 0.61, 0.86, s * 0.61], axes)
    return { glass, rim }
  })
  const hose = tube(
    Array.from({ length: 24 }, (_, i) => {
      const t = i / 23
      return [0.16 + 0.4 * t * t, 1.62 + 0.34 * Math.sin(t * Math.PI), 0.1 * Math.sin(t * 4)] satisfies Vec3
    }),
    0.035,
    12,
  )
  const lamp = placed(
    lathe(
      strips([
        [0, 0],
        [0.07, 0],
        [0.07, 0.06],
        [0.05, 0.12],
        [0, 0.13],
      ]),
      16,
    ),
    [0, 1.645, 0],
  )
  return {
    'bell-copper': joinPieces([dome, bands, ...ports.map((p) => p.rim)]),
    'bell-glass': joinPieces(ports.map((p) => p.glass)),
    'bell-canvas': apron,
    'bell-rubber': hose,
    'bell-lamp': lamp,
  }
}

/** Comes as it was modelled: slots by name, all of them the same grey, no texture. */
export const divingBell: AssetPlan = {
  name: 'harbour_diving_bell_a',
  folder: 'props',
  delivery: 2,
  surfaces: {},
  mesh: () => {
    const surface = bellSurfaces()
    return {
      slots: Object.keys(surface).map((name) => ({
        name,
        colour: [0.5, 0.5, 0.5, 1] as [number, number, number, number],
        roughness: 0.5,
        metallic: 0,
      })),
      parts: [
        { name: 'harbour_diving_bell_a', surface, uvChannels: 1 },
        {
          name: 'harbour_diving_bell_a_hull',
          surface: withoutSlot(
            lathe(
              strips([
                [0, -0.01],
                [0.72, -0.01],
                [0.74, 0.9],
                [0.72, 1.7],
                [0.3, 2.02],
                [0, 2.03],
              ]),
              12,
            ),
          ),
          uvChannels: 0,
        },
      ],
    }
  },
}

const wear = cloudNoise(311, 8, 4)

/** Strokes of a 7, on a sheet of one, and a border: white paint, worn at its edges. */
const seven: Surface = (u, v) => {
  const bar = step(0.2, 0.21, u) * step(0.2, 0.21, 1 - u) * step(0.18, 0.19, v) * step(0.68, 0.69, 1 - v)
  const at = 0.72 - (v - 0.3) * 0.55
  const leg = step(0.28, 0.29, v) * step(0.14, 0.15, 1 - v) * step(-0.07, -0.06, -Math.abs(u - at))
  return {
    height: 0,
    colour: mix([226, 220, 202], [150, 144, 128], 0.5 + 0.5 * wear(u, v)),
    roughness: 0.7,
    metallic: 0,
    occlusion: 1,
    alpha: bar > 0.5 || leg > 0.5 ? 1 : 0,
  }
}

/** A flat square that faces forward. */
function square(side: number, z: number, y: number): Piece {
  const piece = emptyPiece()
  for (const [x, up] of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ] as const)
    addVertex(piece, [(x * side) / 2, y + (up * side) / 2, z], [0, 0, 1], [(x + 1) / 2, (1 - up) / 2])
  piece.indices.push(0, 1, 2, 0, 2, 3)
  return piece
}

/** A number stencilled on a stone, whose square lies exactly in the face under it. */
export const berthNumber: AssetPlan = {
  name: 'harbour_berth_number_a',
  folder: 'props',
  delivery: 2,
  leaveOut: { harbour_berth_number: ['normal', 'orm'] },
  surfaces: {
    harbour_berth_planks: { surface: planks(301, 5, [86, 104, 106], [128, 100, 70]), size: 256 },
    harbour_berth_number: { surface: seven, size: 256, options: { alpha: true } },
  },
  mesh: () => ({
    slots: [
      { name: 'berth-planks', textures: { stem: 'harbour_berth_planks' }, metallic: 0, sheetsPerMetre: 2 },
      {
        name: 'berth-number',
        textures: {
          stem: 'harbour_berth_number',
          files: { normal: 'harbour_berth_planks_normal', orm: 'harbour_berth_planks_orm' },
        },
        metallic: 0,
        alpha: 'MASK',
      },
    ],
    parts: [
      {
        name: 'harbour_berth_number_a',
        surface: {
          'berth-planks': placed(bevelBox([0.7, 0.9, 0.25], 0.02, 1), [0, 0.45, 0]),
          'berth-number': square(0.5, 0.125, 0.46),
        },
        uvChannels: 1,
      },
      {
        name: 'harbour_berth_number_a_hull',
        surface: withoutSlot(placed(bevelBox([0.72, 0.91, 0.27], 0.01, 1), [0, 0.45, 0])),
        uvChannels: 0,
      },
    ],
  }),
}
