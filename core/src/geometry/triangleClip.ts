/** Room for a triangle cut by three lines: at most six corners, u v each, twice. */
const polygon = new Float64Array(32),
  other = new Float64Array(32)

/**
 * Area that two triangles on a sheet share, by clipping one at the edges of the other (Sutherland and Hodgman
 * 1974). `a` and `b` are the offsets of their six numbers (u v u v u v) in `uv`. Winding does not matter; 0
 * when one of them has no area.
 */
export function sharedArea(uv: Float32Array, a: number, b: number): number {
  for (let i = 0; i < 6; i++) polygon[i] = uv[a + i]!
  let corners = 3
  const turn = Math.sign(
    (uv[b + 2]! - uv[b]!) * (uv[b + 5]! - uv[b + 1]!) - (uv[b + 4]! - uv[b]!) * (uv[b + 3]! - uv[b + 1]!),
  )
  if (turn === 0) return 0
  let from = polygon,
    to = other
  for (let edge = 0; edge < 3 && corners > 2; edge++) {
    const p = b + edge * 2,
      q = b + ((edge + 1) % 3) * 2
    corners = cut(from, to, corners, [
      uv[p]!,
      uv[p + 1]!,
      (uv[q]! - uv[p]!) * turn,
      (uv[q + 1]! - uv[p + 1]!) * turn,
    ])
    ;[from, to] = [to, from]
  }
  if (corners < 3) return 0
  let twice = 0
  for (let i = 1; i + 1 < corners; i++)
    twice +=
      (from[i * 2]! - from[0]!) * (from[i * 2 + 3]! - from[1]!) -
      (from[i * 2 + 2]! - from[0]!) * (from[i * 2 + 1]! - from[1]!)
  return Math.abs(twice) / 2
}

/** Keeps what lies left of the line through x, y along dx, dy. */
function cut(
  from: Float64Array,
  to: Float64Array,
  corners: number,
  [x, y, dx, dy]: [number, number, number, number],
): number {
  let kept = 0
  for (let i = 0; i < corners; i++) {
    const j = (i + 1) % corners
    const au = from[i * 2]!,
      av = from[i * 2 + 1]!,
      bu = from[j * 2]!,
      bv = from[j * 2 + 1]!
    const sideA = dx * (av - y) - dy * (au - x),
      sideB = dx * (bv - y) - dy * (bu - x)
    if (sideA >= 0) {
      to[kept * 2] = au
      to[kept * 2 + 1] = av
      kept++
    }
    if (sideA > 0 !== sideB > 0 && sideA !== sideB) {
      const share = sideA / (sideA - sideB)
      to[kept * 2] = au + (bu - au) * share
      to[kept * 2 + 1] = av + (bv - av) * share
      kept++
    }
  }
  return kept
}
