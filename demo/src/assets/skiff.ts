import { bevelBox } from '../shape/bevelBox'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { loft, tube } from '../shape/sweep'
import { planks } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'

const LENGTH = 4.2

/** Half breadth, depth and sheer height of the hull at t = 0 (bow) … 1 (transom). */
const breadth = (t: number): number => 0.74 * Math.pow(Math.sin(Math.PI * (0.0008 + 0.64 * t)), 0.72)
const depth = (t: number): number =>
  0.16 + 0.34 * Math.pow(Math.sin(Math.PI * Math.min(1, 0.12 + 0.72 * t)), 0.8)
const sheer = (t: number): number => 0.52 + 0.24 * Math.pow(1 - t, 2.2) + 0.05 * t * t
const along = (t: number): number => (t - 0.5) * LENGTH

/** Rings of a shell from starboard gunwale over the keel to port; `inset` in metres makes the inner one. */
function shell(stations: number, around: number, inset: number): Vec3[][] {
  return Array.from({ length: stations + 1 }, (_, i) => {
    const t = i / stations
    return Array.from({ length: around + 1 }, (_, j) => {
      const a = (j / around) * Math.PI
      const flare = Math.sign(Math.cos(a)) * Math.pow(Math.abs(Math.cos(a)), 0.7)
      const half = Math.max(0.012, breadth(t) - inset),
        deep = depth(t) - inset
      return [along(t), sheer(t) - Math.pow(Math.sin(a), 0.85) * deep, flare * half] satisfies Vec3
    })
  })
}

const gunwale = (stations: number, side: number): Vec3[] =>
  Array.from({ length: stations + 1 }, (_, i) => [
    along(i / stations),
    sheer(i / stations),
    side * Math.max(0.014, breadth(i / stations) - 0.012),
  ])

/** Closes the stern: a fan over the last ring, facing aft. */
function transom(around: number): Piece {
  const ring = shell(1, around, 0)[1]!
  const middle: Vec3 = [along(1), sheer(1), 0]
  const inner = ring.map(
    ([, y, z]) => [along(1), middle[1] + (y - middle[1]) * 0.02, z * 0.02] satisfies Vec3,
  )
  return loft([ring, inner], [0.4, 1.6], true)
}

function trim(stations: number, sides: number): Piece {
  const seats = [
    [0.3, 0.2],
    [0.55, 0.24],
    [0.88, 0.3],
  ] as const
  const pieces = [-1, 1].map((side) => tube(gunwale(stations, side), 0.026, sides))
  for (const [t, wide] of seats)
    pieces.push(
      placed(bevelBox([wide, 0.035, 2 * breadth(t) - 0.03], 0.008, 1.1), [along(t), sheer(t) - 0.13, 0]),
    )
  pieces.push(
    placed(bevelBox([LENGTH * 0.86, 0.06, 0.05], 0.012, 1), [0.18, sheer(0.6) - depth(0.6) - 0.012, 0]),
  )
  // Stem post, where the sides meet
  pieces.push(
    tube(
      [
        [along(0) - 0.03, sheer(0) + 0.05, 0],
        [along(0) - 0.012, sheer(0) - depth(0) * 0.5, 0],
        [along(0.02), sheer(0) - depth(0) - 0.02, 0],
      ],
      0.03,
      sides,
    ),
  )
  for (let t = 0.16; t < 0.95; t += 0.13) {
    const rib = shell(100, 12, 0.03)[Math.round(t * 100)]!
    pieces.push(tube(rib, 0.014, Math.max(4, sides - 3)))
  }
  return joinPieces(pieces)
}

/** Elsewhere on the sheet, so that inner and outer planks are islands of their own. */
const apart = (piece: Piece): Piece => ({ ...piece, uvs: piece.uvs.map((v) => v + 8) })

function level(stations: number, around: number, sides: number): Record<string, Piece> {
  return {
    'skiff-planks': joinPieces([
      loft(shell(stations, around, 0), [2, 2], true),
      apart(loft(shell(stations, around, 0.02), [2, 2])),
      transom(around),
    ]),
    'skiff-trim': trim(stations, sides),
  }
}

/**
 * Centimetres read as metres, lying on its side: points × 100, then X to Y, with the base centre kept at the
 * origin so that only the planted faults show.
 */
function spoil(surface: Record<string, Piece>): Record<string, Piece> {
  return Object.fromEntries(
    Object.entries(surface).map(([slot, piece]) => {
      const turned = placed(
        piece,
        [0, 0, 0],
        [
          [1, 0, 0],
          [0, 0, 1],
          [0, -1, 0],
        ],
      )
      return [slot, { ...turned, positions: turned.positions.map((v) => v * 100) }]
    }),
  )
}

/** Moves all levels by what brings the first one's base centre to the origin. */
function onBaseCentre(levels: Record<string, Piece>[]): Record<string, Piece>[] {
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity]
  for (const piece of Object.values(levels[0]!))
    for (let k = 0; k < piece.positions.length; k++) {
      low[k % 3] = Math.min(low[k % 3]!, piece.positions[k]!)
      high[k % 3] = Math.max(high[k % 3]!, piece.positions[k]!)
    }
  const by: Vec3 = [-(low[0]! + high[0]!) / 2, -low[1]!, -(low[2]! + high[2]!) / 2]
  return levels.map((surface) =>
    Object.fromEntries(Object.entries(surface).map(([slot, piece]) => [slot, placed(piece, by)])),
  )
}

export const skiff: AssetPlan = {
  name: 'harbour_skiff_a',
  folder: 'vessels',
  delivery: 1,
  surfaces: {
    harbour_skiff_planks: { surface: planks(31, 9, [58, 104, 112], [150, 112, 72]), size: 512 },
    harbour_skiff_trim: { surface: planks(37, 3, [168, 118, 66], [120, 84, 52]), size: 256 },
  },
  mesh: () => {
    const levels = onBaseCentre([level(40, 20, 8), level(20, 12, 5), level(9, 7, 3)].map(spoil))
    return {
      slots: [
        { name: 'skiff-planks', textures: { stem: 'harbour_skiff_planks' }, metallic: 0 },
        { name: 'skiff-trim', textures: { stem: 'harbour_skiff_trim' }, metallic: 0 },
      ],
      parts: levels.map((surface, i) => ({
        name: `harbour_skiff_a_lod${i}`,
        surface,
        uvChannels: 1 as const,
      })),
    }
  },
}
