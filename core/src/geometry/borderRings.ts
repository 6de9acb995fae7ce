import { FACE_OPEN } from './meshTopology'

/**
 * Rings of open edges with at most `most` edges, each as the corners at which its edges begin, in the
 * direction of the triangles along it. `corners` holds three point numbers a triangle, `flags` what
 * meshTopology found. Rings that touch themselves or another at a point are left out: which way they run
 * cannot be told.
 */
export function borderRings(corners: Uint32Array, flags: Uint8Array, most: number): number[][] {
  const starts = openStarts(corners, flags)
  const done = new Set<number>(),
    rings: number[][] = []
  for (const [first, corner] of starts) {
    if (corner === null || done.has(first)) continue
    const ring: number[] = []
    let point = first,
      at: number | null | undefined = corner
    while (at !== null && at !== undefined && !done.has(point)) {
      done.add(point)
      ring.push(at)
      point = corners[following(at)]!
      at = starts.get(point)
    }
    if (point === first && at !== null && ring.length >= 3 && ring.length <= most) rings.push(ring)
  }
  return rings
}

/** The corner after this one in its triangle. */
export const following = (corner: number): number => (corner % 3 === 2 ? corner - 2 : corner + 1)

/** The corner at which the open edge of each point begins; null where there are several. */
function openStarts(corners: Uint32Array, flags: Uint8Array): Map<number, number | null> {
  const uses = new Map<number, number>(),
    points = corners.reduce((most, p) => (p !== 0xffffffff && p > most ? p : most), 0) + 1
  const key = (k: number): number => {
    const a = corners[k]!,
      b = corners[following(k)]!
    return Math.min(a, b) * points + Math.max(a, b)
  }
  const open: number[] = []
  flags.forEach((f, t) => (f & FACE_OPEN) !== 0 && open.push(t))
  for (const t of open) for (let i = 0; i < 3; i++) uses.set(key(t * 3 + i), 0)
  for (let k = 0; k < corners.length; k++) {
    const own = key(k),
      count = uses.get(own)
    if (count !== undefined) uses.set(own, count + 1)
  }
  const starts = new Map<number, number | null>()
  for (const t of open)
    for (let k = t * 3; k < t * 3 + 3; k++)
      if (uses.get(key(k)) === 1) starts.set(corners[k]!, starts.has(corners[k]!) ? null : k)
  return starts
}
