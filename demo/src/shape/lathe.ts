import { addVertex, emptyPiece, type Piece } from './piece'

/**
 * A profile from bottom to top, as radius and height; each strip is smooth in itself, between strips there is
 * an edge.
 */
export type Profile = [number, number][][]

/**
 * Turns a profile about Y. UVs run around and along the profile, `repeat` times; radius 0 closes to a pole
 * without degenerate triangles.
 */
export function lathe(profile: Profile, segments: number, repeat: [number, number] = [1, 1]): Piece {
  const piece = emptyPiece()
  const total = profile.reduce((sum, strip) => sum + stripLength(strip), 0)
  let before = 0
  for (const strip of profile) {
    addStrip(piece, strip, { segments, repeat, before, total })
    before += stripLength(strip)
  }
  return piece
}

const stripLength = (strip: [number, number][]): number =>
  strip.slice(1).reduce((sum, [r, y], i) => sum + Math.hypot(r - strip[i]![0], y - strip[i]![1]), 0)

interface Turning {
  segments: number
  repeat: [number, number]
  before: number
  total: number
}

function addStrip(
  piece: Piece,
  strip: [number, number][],
  { segments, repeat, before, total }: Turning,
): void {
  const first = piece.positions.length / 3
  let length = before
  for (const [i, [radius, y]] of strip.entries()) {
    if (i > 0) length += Math.hypot(radius - strip[i - 1]![0], y - strip[i - 1]![1])
    const a = strip[Math.max(0, i - 1)]!,
      b = strip[Math.min(strip.length - 1, i + 1)]!
    const tr = b[0] - a[0],
      ty = b[1] - a[1],
      tl = Math.hypot(tr, ty) || 1
    for (let s = 0; s <= segments; s++) {
      const turn = s / segments,
        angle = turn * Math.PI * 2
      const c = Math.cos(angle),
        n = Math.sin(angle)
      const u = radius === 0 ? (s + 0.5) / segments : turn,
        v = length / total
      addVertex(
        piece,
        [radius * c, y, -radius * n],
        [(ty / tl) * c, -tr / tl, (-ty / tl) * n],
        [u * repeat[0], (1 - v) * repeat[1]],
        [0.02 + u * 0.96, 0.02 + v * 0.96],
      )
    }
  }
  const row = segments + 1
  for (let i = 0; i + 1 < strip.length; i++)
    for (let s = 0; s < segments; s++) {
      const a = first + i * row + s,
        b = a + 1,
        c = a + row,
        d = c + 1
      if (strip[i]![0] > 0) piece.indices.push(a, b, d)
      if (strip[i + 1]![0] > 0) piece.indices.push(a, d, c)
      // At a pole one triangle a segment is left; it takes the pole's own vertex
      if (strip[i + 1]![0] === 0) piece.indices.splice(-3, 3, a, b, c)
    }
}
