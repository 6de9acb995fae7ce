import type { Bounds } from '@stern-gate/contract'
import type { TriangleList } from './joinTriangles'
import { boundsRadius } from './pointBounds'

/** Pixels of a mask's side, and views of the ring. */
const SIDE = 96,
  VIEWS = 8
const ELEVATION = (15 * Math.PI) / 180

/**
 * How much the outlines of two surfaces differ: pixels that only one of them covers, as a share of those that the first
 * covers, over a ring of eight views in parallel projection, 15° above the horizon. Null where the first covers none.
 */
export function outlineDifference(
  first: readonly TriangleList[],
  second: readonly TriangleList[],
  bounds: Bounds,
): number | null {
  let covered = 0,
    differing = 0
  for (let view = 0; view < VIEWS; view++) {
    const look = lookFrom(bounds, (view / VIEWS) * 2 * Math.PI)
    const a = maskOf(first, look),
      b = maskOf(second, look)
    for (let i = 0; i < a.length; i++) {
      covered += a[i]!
      differing += a[i]! ^ b[i]!
    }
  }
  return covered > 0 ? differing / covered : null
}

/** Rows of a view: how x and y of the mask come from a place. */
interface Look {
  x: readonly [number, number, number, number]
  y: readonly [number, number, number, number]
}

/** A ball around the bounds fits the mask with a margin, so that every view has the same scale. */
function lookFrom(bounds: Bounds, azimuth: number): Look {
  const centre = bounds.min.map((v, i) => (v + bounds.max[i]!) / 2)
  const scale = (SIDE * 0.94) / (2 * boundsRadius(bounds) || 1)
  const [ca, sa, ce, se] = [Math.cos(azimuth), Math.sin(azimuth), Math.cos(ELEVATION), Math.sin(ELEVATION)]
  const row = (x: number, y: number, z: number): [number, number, number, number] => [
    x * scale,
    y * scale,
    z * scale,
    SIDE / 2 - (x * centre[0]! + y * centre[1]! + z * centre[2]!) * scale,
  ]
  return { x: row(ca, 0, -sa), y: row(se * sa, -ce, se * ca) }
}

/** 1 for every pixel whose centre some triangle covers. */
function maskOf(parts: readonly TriangleList[], { x: rx, y: ry }: Look): Uint8Array {
  const mask = new Uint8Array(SIDE * SIDE)
  for (const { positions: p, indices } of parts) {
    const flat = new Float32Array((p.length / 3) * 2)
    for (let v = 0, k = 0; k + 2 < p.length; v += 2, k += 3) {
      flat[v] = p[k]! * rx[0] + p[k + 1]! * rx[1] + p[k + 2]! * rx[2] + rx[3]
      flat[v + 1] = p[k]! * ry[0] + p[k + 1]! * ry[1] + p[k + 2]! * ry[2] + ry[3]
    }
    for (let t = 0; t + 2 < indices.length; t += 3)
      fill(mask, flat, indices[t]! * 2, indices[t + 1]! * 2, indices[t + 2]! * 2)
  }
  return mask
}

function fill(mask: Uint8Array, flat: Float32Array, a: number, b: number, c: number): void {
  const ax = flat[a]!,
    ay = flat[a + 1]!,
    bx = flat[b]!,
    by = flat[b + 1]!,
    cx = flat[c]!,
    cy = flat[c + 1]!
  const turn = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
  if (!(turn !== 0 && Number.isFinite(turn))) return
  const from = Math.max(0, Math.ceil(Math.min(ay, by, cy) - 0.5)),
    to = Math.min(SIDE - 1, Math.floor(Math.max(ay, by, cy) - 0.5))
  const left = Math.max(0, Math.ceil(Math.min(ax, bx, cx) - 0.5)),
    right = Math.min(SIDE - 1, Math.floor(Math.max(ax, bx, cx) - 0.5))
  const sign = turn > 0 ? 1 : -1
  for (let row = from; row <= to; row++) {
    const y = row + 0.5
    for (let column = left; column <= right; column++) {
      const x = column + 0.5
      if (
        sign * ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) >= 0 &&
        sign * ((cx - bx) * (y - by) - (cy - by) * (x - bx)) >= 0 &&
        sign * ((ax - cx) * (y - cy) - (ay - cy) * (x - cx)) >= 0
      )
        mask[row * SIDE + column] = 1
    }
  }
}
