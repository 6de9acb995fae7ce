import { addVertex, cross, emptyPiece, minus, normalise, type Piece, type Vec3 } from './piece'

/**
 * A box about the origin with chamfered edges: 6 faces, 12 edges, 8 corners, all flat. UVs are planar,
 * `density` sheets a metre.
 */
export function bevelBox(size: Vec3, bevel: number, density: number): Piece {
  const piece = emptyPiece()
  const half = size.map((s) => s / 2) as Vec3
  const cells = { next: 0 }
  const signs = [-1, 1]
  const point = (axis: number, s: Vec3): Vec3 =>
    [0, 1, 2].map((i) => s[i]! * (half[i]! - (i === axis ? 0 : bevel))) as Vec3
  for (let axis = 0; axis < 3; axis++) {
    const [j, k] = [(axis + 1) % 3, (axis + 2) % 3]
    for (const side of signs)
      addFlat(
        piece,
        [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ].map(([p, q]) => point(axis, signed(axis, side, j, p!, k, q!))),
        signed(axis, side, j, 0, k, 0),
        density,
        cells,
      )
    // Edges that run along this axis
    for (const p of signs)
      for (const q of signs)
        addFlat(
          piece,
          [
            point(j, signed(axis, -1, j, p, k, q)),
            point(j, signed(axis, 1, j, p, k, q)),
            point(k, signed(axis, 1, j, p, k, q)),
            point(k, signed(axis, -1, j, p, k, q)),
          ],
          signed(axis, 0, j, p, k, q),
          density,
          cells,
        )
  }
  for (const x of signs)
    for (const y of signs)
      for (const z of signs)
        addFlat(
          piece,
          [point(0, [x, y, z]), point(1, [x, y, z]), point(2, [x, y, z])],
          [x, y, z],
          density,
          cells,
        )
  return piece
}

function signed(a: number, va: number, b: number, vb: number, c: number, vc: number): Vec3 {
  const v: Vec3 = [0, 0, 0]
  v[a] = va
  v[b] = vb
  v[c] = vc
  return v
}

/**
 * Adds a flat polygon that faces `out`, whichever way its points go round. Each gets a cell of a 6 × 5 sheet
 * of its own.
 */
function addFlat(piece: Piece, points: Vec3[], out: Vec3, density: number, cells: { next: number }): void {
  const raw = cross(minus(points[1]!, points[0]!), minus(points[2]!, points[0]!))
  const facing = raw[0] * out[0] + raw[1] * out[1] + raw[2] * out[2] > 0
  const ring = facing ? points : [...points].reverse()
  const normal = normalise(facing ? raw : (raw.map((v) => -v) as Vec3))
  const main = normal.map(Math.abs).indexOf(Math.max(...normal.map(Math.abs)))
  const [j, k] = [(main + 1) % 3, (main + 2) % 3]
  const cell = cells.next++
  const corner = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as const
  const first = piece.positions.length / 3
  for (const [i, p] of ring.entries())
    addVertex(
      piece,
      p,
      normal,
      [p[j]! * density, p[k]! * density],
      [((cell % 6) + 0.1 + corner[i]![0] * 0.8) / 6, (Math.floor(cell / 6) + 0.1 + corner[i]![1] * 0.8) / 5],
    )
  for (let i = 1; i + 1 < ring.length; i++) piece.indices.push(first, first + i, first + i + 1)
}
