import { addVertex, cross, emptyPiece, minus, normalise, type Piece, type Vec3 } from './piece'

/**
 * A tube along a path, open at its ends or closed to a ring. Frames are carried along the path without twist.
 */
export function tube(path: Vec3[], radius: number, sides: number, closed = false): Piece {
  const piece = emptyPiece()
  const points = closed ? [...path, path[0]!] : path
  const tangent = (i: number): Vec3 => {
    const n = path.length
    const [a, b] = closed
      ? [path[(i - 1 + n) % n]!, path[(i + 1) % n]!]
      : [points[Math.max(0, i - 1)]!, points[Math.min(points.length - 1, i + 1)]!]
    return normalise(minus(b, a))
  }
  const t0 = tangent(0)
  let side = normalise(cross(Math.abs(t0[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0], t0))
  let length = 0
  for (const [i, p] of points.entries()) {
    const t = tangent(closed ? i % path.length : i)
    const up = normalise(cross(t, side))
    side = normalise(cross(up, t))
    if (i > 0) length += Math.hypot(...minus(p, points[i - 1]!))
    for (let s = 0; s <= sides; s++) {
      const a = (s / sides) * Math.PI * 2,
        c = Math.cos(a),
        n = Math.sin(a)
      const normal: Vec3 = [0, 1, 2].map((k) => side[k]! * c + up[k]! * n) as Vec3
      addVertex(
        piece,
        [p[0] + normal[0] * radius, p[1] + normal[1] * radius, p[2] + normal[2] * radius],
        normal,
        [s / sides, length * 4],
        [s / sides, i / (points.length - 1)],
      )
    }
  }
  const row = sides + 1
  for (let i = 0; i + 1 < points.length; i++)
    for (let s = 0; s < sides; s++) {
      const a = i * row + s
      piece.indices.push(a, a + 1, a + row + 1, a, a + row + 1, a + row)
    }
  if (!closed)
    for (const end of [0, points.length - 1])
      addEnd(piece, end * row, sides, points[end]!, end === 0 ? (t0.map((v) => -v) as Vec3) : tangent(end))
  return piece
}

function addEnd(piece: Piece, ring: number, sides: number, centre: Vec3, normal: Vec3): void {
  const middle = addVertex(piece, centre, normal, [0.5, 0.5])
  const first = piece.positions.length / 3
  for (let s = 0; s <= sides; s++) {
    const at = (ring + s) * 3,
      a = (s / sides) * Math.PI * 2
    addVertex(piece, [piece.positions[at]!, piece.positions[at + 1]!, piece.positions[at + 2]!], normal, [
      0.5 + Math.cos(a) * 0.1,
      0.5 + Math.sin(a) * 0.1,
    ])
  }
  for (let s = 0; s < sides; s++)
    piece.indices.push(
      ...(ring === 0 ? [middle, first + s + 1, first + s] : [middle, first + s, first + s + 1]),
    )
}

/** Skins a grid of points, rows by columns; smooth normals. `turned` makes it face the other way. */
export function loft(rows: Vec3[][], repeat: [number, number], turned = false): Piece {
  const piece = emptyPiece()
  const high = rows.length - 1,
    wide = rows[0]!.length - 1
  const at = (i: number, j: number): Vec3 =>
    rows[Math.min(high, Math.max(0, i))]![Math.min(wide, Math.max(0, j))]!
  for (let i = 0; i <= high; i++)
    for (let j = 0; j <= wide; j++) {
      const n = normalise(cross(minus(at(i, j + 1), at(i, j - 1)), minus(at(i + 1, j), at(i - 1, j))))
      addVertex(
        piece,
        at(i, j),
        turned ? [-n[0], -n[1], -n[2]] : n,
        [(i / high) * repeat[0], (j / wide) * repeat[1]],
        [i / high, j / wide],
      )
    }
  const distinct = (a: number, b: number): boolean =>
    [0, 1, 2].some((k) => Math.abs(piece.positions[a * 3 + k]! - piece.positions[b * 3 + k]!) > 1e-6)
  const add = (a: number, b: number, c: number) => {
    if (distinct(a, b) && distinct(b, c) && distinct(a, c))
      piece.indices.push(...(turned ? [a, c, b] : [a, b, c]))
  }
  for (let i = 0; i < high; i++)
    for (let j = 0; j < wide; j++) {
      const a = i * (wide + 1) + j,
        b = a + wide + 1
      add(a, a + 1, b)
      add(b, a + 1, b + 1)
    }
  return piece
}

/**
 * Extrudes an outline that is star-shaped about the origin, given in X and Y, along Z about the origin; flat
 * faces with edges.
 */
export function extrude(outline: [number, number][], depth: number, density: number): Piece {
  const piece = emptyPiece()
  for (const side of [-1, 1]) {
    const z = (side * depth) / 2
    const middle = addVertex(piece, [0, 0, z], [0, 0, side], [0.5, 0.5])
    const first = piece.positions.length / 3
    for (const [x, y] of outline)
      addVertex(piece, [x, y, z], [0, 0, side], [0.5 + x * density, 0.5 + y * density])
    for (let i = 0; i < outline.length; i++) {
      const a = first + i,
        b = first + ((i + 1) % outline.length)
      piece.indices.push(...(side > 0 ? [middle, a, b] : [middle, b, a]))
    }
  }
  let length = 0
  for (let i = 0; i < outline.length; i++) {
    const [ax, ay] = outline[i]!,
      [bx, by] = outline[(i + 1) % outline.length]!
    const step = Math.hypot(bx - ax, by - ay)
    const normal = normalise([by - ay, ax - bx, 0])
    const corners = (
      [
        [ax, ay, -1, 0],
        [bx, by, -1, 1],
        [bx, by, 1, 1],
        [ax, ay, 1, 0],
      ] as const
    ).map(([x, y, z, end]) =>
      addVertex(piece, [x, y, (z * depth) / 2], normal, [
        (length + end * step) * density,
        z * depth * 0.5 * density,
      ]),
    )
    piece.indices.push(corners[0]!, corners[1]!, corners[2]!, corners[0]!, corners[2]!, corners[3]!)
    length += step
  }
  return piece
}
