import { bevelBox } from '../shape/bevelBox'
import { lathe } from '../shape/lathe'
import { joinPieces, placed, type Piece, type Vec3 } from '../shape/piece'
import { paintedIron, planks } from '../surface/surfaces'
import type { AssetPlan } from './assetPlan'
import type { PartPlan } from './buildMesh'

/** Metres. */
const WIDE = 4,
  DEEP = 3,
  HIGH = 2.4,
  WALL = 0.09

const board = (size: Vec3, at: Vec3): Piece => placed(bevelBox(size, 0.008, 0.5), at)

/** Three walls with a doorway in the front, and a roof that leans to the back. */
function shedBody(): { planks: Piece; iron: Piece } {
  const front = 1.1
  const walls = [
    board([WIDE, HIGH, WALL], [0, HIGH / 2, -DEEP / 2]),
    board([WALL, HIGH, DEEP - WALL - 0.01], [-WIDE / 2 + WALL / 2, HIGH / 2, WALL / 2]),
    board([WALL, HIGH, DEEP - WALL - 0.01], [WIDE / 2 - WALL / 2, HIGH / 2, WALL / 2]),
    board([front, HIGH, WALL], [-WIDE / 2 + WALL + front / 2, HIGH / 2, DEEP / 2 - WALL / 2]),
    board([front, HIGH, WALL], [WIDE / 2 - WALL - front / 2, HIGH / 2, DEEP / 2 - WALL / 2]),
  ]
  const tilt = 0.11,
    c = Math.cos(tilt),
    s = Math.sin(tilt)
  const roof = placed(
    bevelBox([WIDE + 0.5, 0.06, DEEP + 0.7], 0.01, 0.5),
    [0, HIGH + 0.2, 0],
    [
      [1, 0, 0],
      [0, c, s],
      [0, -s, c],
    ],
  )
  return { planks: joinPieces(walls), iron: roof }
}

/** A leaf of planks from its middle to one side: what was modelled to be mirrored. Open at x = 0. */
function halfDoor(): Piece {
  const leaf = placed(bevelBox([1.3, 1.95, 0.05], 0.008, 0.5), [0, 0.975, 0])
  return cutAtMiddle(leaf)
}

/** Cuts a piece at x = 0 and keeps what lies beyond; no cap is put on. */
function cutAtMiddle(piece: Piece): Piece {
  const out: Piece = { positions: [], normals: [], uvs: [], sheet: [], indices: [] }
  type Corner = number[]
  const corner = (v: number): Corner => [
    ...piece.positions.slice(v * 3, v * 3 + 3),
    ...piece.normals.slice(v * 3, v * 3 + 3),
    ...piece.uvs.slice(v * 2, v * 2 + 2),
    ...piece.sheet.slice(v * 2, v * 2 + 2),
  ]
  const between = (a: Corner, b: Corner): Corner => {
    const t = a[0]! / (a[0]! - b[0]!)
    return a.map((v, i) => (i === 0 ? 0 : v + (b[i]! - v) * t))
  }
  for (let t = 0; t < piece.indices.length; t += 3) {
    const ring = [0, 1, 2].map((k) => corner(piece.indices[t + k]!))
    const kept: Corner[] = []
    ring.forEach((a, k) => {
      const b = ring[(k + 1) % 3]!
      if (a[0]! >= 0) kept.push(a)
      if (a[0]! < 0 !== b[0]! < 0) kept.push(between(a, b))
    })
    if (kept.length < 3) continue
    const first = out.positions.length / 3
    for (const c of kept) {
      out.positions.push(...c.slice(0, 3))
      out.normals.push(...c.slice(3, 6))
      out.uvs.push(...c.slice(6, 8))
      out.sheet.push(...c.slice(8, 10))
    }
    for (let k = 1; k + 1 < kept.length; k++) out.indices.push(first, first + k, first + k + 1)
  }
  return out
}

const legs = (x: number, z: number, high: number, thick: number): Piece[] =>
  [-1, 1].flatMap((i) =>
    [-1, 1].map((j) => board([thick, high, thick], [(i * x) / 2, high / 2, (j * z) / 2])),
  )

const workbench = (): Piece =>
  joinPieces([
    ...legs(1.3, 0.5, 0.8, 0.09),
    board([1.6, 0.07, 0.7], [0, 0.835, 0]),
    board([1.21, 0.04, 0.42], [0, 0.22, 0]),
  ])

const stool = (): Piece =>
  joinPieces([...legs(0.26, 0.26, 0.42, 0.05), board([0.38, 0.04, 0.38], [0, 0.44, 0])])

const barrel = (): Piece =>
  lathe(
    [
      [
        [0, 0],
        [0.24, 0],
      ],
      [
        [0.24, 0],
        [0.29, 0.22],
        [0.31, 0.42],
        [0.29, 0.62],
        [0.24, 0.84],
      ],
      [
        [0.24, 0.84],
        [0, 0.84],
      ],
    ],
    20,
    [2, 1],
  )

const lamp = (): Piece =>
  joinPieces([
    lathe(
      [
        [
          [0, 0],
          [0.09, 0],
        ],
        [
          [0.09, 0],
          [0.09, 0.03],
        ],
        [
          [0.09, 0.03],
          [0.065, 0.06],
        ],
        [
          [0.065, 0.06],
          [0.065, 0.2],
        ],
        [
          [0.065, 0.2],
          [0.03, 0.27],
          [0, 0.28],
        ],
      ],
      16,
    ),
    board([0.03, 0.1, 0.03], [0, 0.32, 0]),
  ])

const rack = (): Piece =>
  joinPieces([
    board([0.08, 1.7, 0.08], [-0.6, 0.85, 0]),
    board([0.08, 1.7, 0.08], [0.6, 0.85, 0]),
    ...[0.5, 1.0, 1.5].map((y) => board([1.36, 0.06, 0.2], [0, y, 0])),
  ])

const chest = (): Piece =>
  joinPieces([
    board([0.9, 0.4, 0.5], [0, 0.2, 0]),
    placed(bevelBox([0.92, 0.1, 0.52], 0.02, 0.5), [0, 0.452, 0]),
  ])

/** A person of boxes, whom the shed was measured against. */
const figure = (): Piece =>
  joinPieces([
    board([0.14, 0.82, 0.16], [-0.1, 0.41, 0]),
    board([0.14, 0.82, 0.16], [0.1, 0.41, 0]),
    board([0.42, 0.62, 0.24], [0, 1.13, 0]),
    board([0.11, 0.6, 0.12], [-0.29, 1.12, 0]),
    board([0.11, 0.6, 0.12], [0.29, 1.12, 0]),
    board([0.2, 0.26, 0.22], [0, 1.6, 0]),
  ])

const aboutY = (degrees: number): [number, number, number, number] => {
  const half = (degrees * Math.PI) / 360
  return [0, Math.sin(half), 0, Math.cos(half)]
}

function parts(): PartPlan[] {
  const body = shedBody()
  const one = (name: string, surface: PartPlan['surface'], translation: Vec3, turn = 0): PartPlan => ({
    name,
    surface,
    translation,
    uvChannels: 1,
    ...(turn ? { rotation: aboutY(turn) } : {}),
  })
  return [
    one('harbour_shed_a', { 'shed-planks': body.planks, 'shed-iron': body.iron }, [0, 0, 0]),
    one('harbour_shed_door_a', { 'shed-planks': halfDoor() }, [0.9, 0, DEEP / 2 + 0.75]),
    one('harbour_workbench_a', { 'shed-planks': workbench() }, [-0.7, 0, -1]),
    one('harbour_stool_a.001', { 'shed-planks': stool() }, [-0.9, 0, -0.25], 12),
    one('harbour_stool_a.002', { 'shed-planks': stool() }, [0.9, 0, -0.3], -35),
    one('harbour_stool_a.003', { 'shed-planks': stool() }, [3.1, 0, 0.9], 70),
    one('harbour_barrel_a', { 'shed-planks': barrel() }, [1.4, 0, -0.9]),
    one('harbour_shed_lamp_a', { 'shed-iron': lamp() }, [-1.2, 0.87, -1]),
    one('harbour_net_rack_a', { 'shed-planks': rack() }, [3.6, 0, -0.6], 90),
    one('harbour_sea_chest_a', { 'shed-planks': chest() }, [-3, 0, 0.8], 28),
    one('scale_figure', { 'shed-planks': figure() }, [-3, 0, 2.2], -30),
  ]
}

/** One file with a shed and what stands in it, a figure to measure by, and a door whose other half is missing. */
export const shedSet: AssetPlan = {
  name: 'harbour_shed_set',
  folder: 'sets',
  delivery: 2,
  surfaces: {
    harbour_shed_planks: { surface: planks(211, 6, [70, 96, 104], [128, 100, 70]), size: 512 },
    harbour_shed_iron: { surface: paintedIron(223, [96, 52, 40]), size: 512 },
  },
  mesh: () => ({
    slots: [
      { name: 'shed-planks', textures: { stem: 'harbour_shed_planks' }, metallic: 0, sheetsPerMetre: 0.5 },
      { name: 'shed-iron', textures: { stem: 'harbour_shed_iron' }, metallic: 0, sheetsPerMetre: 0.5 },
    ],
    parts: parts(),
  }),
}
