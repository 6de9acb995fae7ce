export type Vec3 = [number, number, number]

/**
 * A piece of surface while it is modelled: metres, Y up, counter-clockwise outside. `sheet` is a second UV,
 * free of overlaps within the piece.
 */
export interface Piece {
  positions: number[]
  normals: number[]
  uvs: number[]
  sheet: number[]
  indices: number[]
}

export const emptyPiece = (): Piece => ({ positions: [], normals: [], uvs: [], sheet: [], indices: [] })

/** Adds a vertex, returns its number. Edits in place. */
export function addVertex(
  piece: Piece,
  position: Vec3,
  normal: Vec3,
  uv: [number, number],
  sheet: [number, number] = uv,
): number {
  piece.positions.push(...position)
  piece.normals.push(...normal)
  piece.uvs.push(...uv)
  piece.sheet.push(...sheet)
  return piece.positions.length / 3 - 1
}

/** Joins pieces that share a slot. */
export function joinPieces(pieces: readonly Piece[]): Piece {
  const joined = emptyPiece()
  for (const piece of pieces) {
    const first = joined.positions.length / 3
    for (const key of ['positions', 'normals', 'uvs', 'sheet'] as const)
      for (const v of piece[key]) joined[key].push(v)
    for (const i of piece.indices) joined.indices.push(first + i)
  }
  return joined
}

/**
 * Returns the piece moved and turned: `axes` are the images of X, Y and Z and must be at right angles, unit
 * long and right-handed.
 */
export function placed(
  piece: Piece,
  at: Vec3,
  axes: [Vec3, Vec3, Vec3] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
): Piece {
  const turn = (list: number[], offset: Vec3): number[] => {
    const out: number[] = []
    for (let k = 0; k < list.length; k += 3)
      for (let i = 0; i < 3; i++)
        out.push(
          list[k]! * axes[0][i]! + list[k + 1]! * axes[1][i]! + list[k + 2]! * axes[2][i]! + offset[i]!,
        )
    return out
  }
  return { ...piece, positions: turn(piece.positions, at), normals: turn(piece.normals, [0, 0, 0]) }
}

/** Returns the piece with its sheet laid into a rectangle of the lightmap. */
export function onSheet(piece: Piece, [x, y, width, height]: [number, number, number, number]): Piece {
  return { ...piece, sheet: piece.sheet.map((v, i) => (i % 2 === 0 ? x + v * width : y + v * height)) }
}

/** Axes for a turn about Y. */
export function turnedY(angle: number): [Vec3, Vec3, Vec3] {
  const c = Math.cos(angle),
    s = Math.sin(angle)
  return [
    [c, 0, -s],
    [0, 1, 0],
    [s, 0, c],
  ]
}

/** Y goes to X: what was modelled standing lies along X. */
export const layAlongX: [Vec3, Vec3, Vec3] = [
  [0, -1, 0],
  [1, 0, 0],
  [0, 0, 1],
]
/** Y goes to Z. */
export const layAlongZ: [Vec3, Vec3, Vec3] = [
  [1, 0, 0],
  [0, 0, 1],
  [0, -1, 0],
]

export const normalise = (v: Vec3): Vec3 => {
  const length = Math.hypot(...v) || 1
  return [v[0] / length, v[1] / length, v[2] / length]
}
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
export const minus = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
