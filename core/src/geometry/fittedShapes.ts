import { hullMesh, type HullMesh } from './hullMesh'

/** So many corners of the hull tell which way a box is turned. */
const ROUGH_CORNERS = 128
/** Directions that are tried within a quarter turn, and steps by which the best is made better. */
const DIRECTIONS = 90,
  STEPS = 12
/** Sides of a cylinder. */
const SIDES = 12
/** Enough directions that each corner of a box or a cylinder is the furthest in one of them. */
const BOX_DIRECTIONS = 64,
  CYLINDER_DIRECTIONS = 512

/**
 * The smallest of the boxes around points (x y z …) that are turned about one axis of the world; null where they have
 * no extent in some direction. A box that has to be turned about two axes is not found.
 */
export function turnedBoxMesh(points: ArrayLike<number>): HullMesh | null {
  const rough = hullMesh(points, ROUGH_CORNERS)
  if (!rough) return null
  let best: { axis: number; angle: number; volume: number } | null = null
  for (const axis of [1, 0, 2]) {
    const angle = bestAngle(rough.positions, axis)
    const volume = extent(rough.positions, axis, angle).volume
    // Along the axes where that is as good: nobody wants a crooked box
    if (!best || volume < best.volume * 0.999) best = { axis, angle, volume }
  }
  const { low, high } = extent(points, best!.axis, best!.angle)
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) =>
    back(
      [0, 1, 2].map((i) => ((n >> i) & 1 ? high[i]! : low[i]!)),
      best!.axis,
      best!.angle,
    ),
  )
  return hullMesh(corners, BOX_DIRECTIONS)
}

/** An upright prism of twelve sides around points, through the middle of their box; null where they have no extent. */
export function cylinderMesh(points: ArrayLike<number>): HullMesh | null {
  const { low, high } = extent(points, 1, 0)
  if (low.some((v, i) => !(high[i]! > v))) return null
  const x = (low[0]! + high[0]!) / 2,
    z = (low[2]! + high[2]!) / 2
  let radius = 0
  for (let k = 0; k + 2 < points.length; k += 3)
    radius = Math.max(radius, Math.hypot(points[k]! - x, points[k + 2]! - z))
  // Its sides touch the circle, its corners lie outside of it
  const corner = radius / Math.cos(Math.PI / SIDES)
  const corners = Array.from({ length: SIDES }, (_, i) => ((i + 0.5) / SIDES) * 2 * Math.PI).flatMap((a) =>
    [low[1]!, high[1]!].flatMap((y) => [x + Math.cos(a) * corner, y, z + Math.sin(a) * corner]),
  )
  return hullMesh(corners, CYLINDER_DIRECTIONS)
}

interface Extent {
  low: number[]
  high: number[]
  volume: number
}

/** The two axes that a turn about the third mixes. */
const mixed = (axis: number): [number, number] => [(axis + 1) % 3, (axis + 2) % 3]

/** The box of points in a frame that is turned about an axis. */
function extent(points: ArrayLike<number>, axis: number, angle: number): Extent {
  const [i, j] = mixed(axis),
    c = Math.cos(angle),
    s = Math.sin(angle)
  const low = [Infinity, Infinity, Infinity],
    high = [-Infinity, -Infinity, -Infinity]
  const take = (n: number, value: number): void => {
    if (value < low[n]!) low[n] = value
    if (value > high[n]!) high[n] = value
  }
  for (let k = 0; k + 2 < points.length; k += 3) {
    const u = points[k + i]!,
      v = points[k + j]!
    take(axis, points[k + axis]!)
    take(i, c * u + s * v)
    take(j, c * v - s * u)
  }
  return { low, high, volume: low.reduce((product, v, n) => product * (high[n]! - v), 1) }
}

/** A place of the turned frame in the world. */
function back(place: readonly number[], axis: number, angle: number): number[] {
  const [i, j] = mixed(axis),
    c = Math.cos(angle),
    s = Math.sin(angle)
  const out = [...place]
  out[i] = c * place[i]! - s * place[j]!
  out[j] = s * place[i]! + c * place[j]!
  return out
}

/** The angle of the smallest box, by trying all of a quarter turn and halving around the best. */
function bestAngle(points: ArrayLike<number>, axis: number): number {
  let step = Math.PI / 2 / DIRECTIONS,
    best = 0,
    least = extent(points, axis, 0).volume
  const attempt = (angle: number): void => {
    const { volume } = extent(points, axis, angle)
    // Not turned where turning saves nothing
    if (volume < least * (1 - 1e-6)) {
      least = volume
      best = angle
    }
  }
  for (let n = 1; n < DIRECTIONS; n++) attempt(n * step)
  for (let n = 0; n < STEPS; n++) {
    step /= 2
    const from = best
    attempt(from - step)
    attempt(from + step)
  }
  return best
}
