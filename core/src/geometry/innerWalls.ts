/** A surface whose closed shells are known: three point numbers a triangle, each triangle's shell. */
export interface Shells {
  corners: Uint32Array
  positions: Float32Array
  /** Number of the shell of each triangle; −1 for triangles that take part in nothing. */
  shellOf: Int32Array
  /** Six times the signed volume of each shell, positive facing outward. */
  sixVolumes: Float64Array
  /** Shells that are closed and have an inside. */
  isBody: (shell: number) => boolean
}

/** So many shells that face inward are looked at; a mesh of more is inside out as a whole. */
const MOST = 256
/** Not along any axis or diagonal, so that a ray meets no edge of what is modelled along them. */
const RAY = [0.5773, 0.2113, 0.7887] as const

/**
 * Shells that face inward and lie inside of another that faces outward: the inner wall of a hollow body, which
 * is seen from within it and is right. A ray from one of its points leaves the other shell once more than it
 * enters it.
 */
export function innerWalls(shells: Shells): Set<number> {
  const { sixVolumes, isBody } = shells
  const inward: number[] = [],
    outward = new Set<number>()
  for (let n = 0; n < sixVolumes.length; n++) {
    if (!isBody(n)) continue
    if (sixVolumes[n]! < 0) inward.push(n)
    else outward.add(n)
  }
  const found = new Set<number>()
  if (outward.size === 0 || inward.length === 0 || inward.length > MOST) return found
  const places = startPlaces(shells, inward)
  for (const n of inward) {
    const from = places.get(n)
    if (from && windings(shells, from, outward) > 0) found.add(n)
  }
  return found
}

/** The middle of one triangle of each shell. */
function startPlaces(
  { corners, positions, shellOf }: Shells,
  wanted: readonly number[],
): Map<number, [number, number, number]> {
  const open = new Set(wanted),
    places = new Map<number, [number, number, number]>()
  for (let t = 0; t < shellOf.length && open.size > 0; t++) {
    const n = shellOf[t]!
    if (!open.delete(n)) continue
    const [a, b, c] = [corners[t * 3]! * 3, corners[t * 3 + 1]! * 3, corners[t * 3 + 2]! * 3]
    places.set(
      n,
      [0, 1, 2].map((k) => (positions[a + k]! + positions[b + k]! + positions[c + k]!) / 3) as [
        number,
        number,
        number,
      ],
    )
  }
  return places
}

/** How often a ray from a place leaves the shells that face outward, less how often it enters them. */
function windings(
  { corners, positions, shellOf }: Shells,
  from: readonly [number, number, number],
  outward: ReadonlySet<number>,
): number {
  let count = 0
  for (let t = 0; t < shellOf.length; t++)
    if (outward.has(shellOf[t]!)) count += crossing(positions, corners, t, from)
  return count
}

/** 1 where the ray leaves through a triangle, −1 where it enters, 0 where it misses (Möller and Trumbore 1997). */
function crossing(
  positions: Float32Array,
  corners: Uint32Array,
  t: number,
  from: readonly [number, number, number],
): number {
  const a = corners[t * 3]! * 3,
    b = corners[t * 3 + 1]! * 3,
    c = corners[t * 3 + 2]! * 3
  const ax = positions[a]!,
    ay = positions[a + 1]!,
    az = positions[a + 2]!
  const ux = positions[b]! - ax,
    uy = positions[b + 1]! - ay,
    uz = positions[b + 2]! - az
  const vx = positions[c]! - ax,
    vy = positions[c + 1]! - ay,
    vz = positions[c + 2]! - az
  const px = RAY[1] * vz - RAY[2] * vy,
    py = RAY[2] * vx - RAY[0] * vz,
    pz = RAY[0] * vy - RAY[1] * vx
  const determinant = ux * px + uy * py + uz * pz
  if (determinant === 0) return 0
  const sx = from[0] - ax,
    sy = from[1] - ay,
    sz = from[2] - az
  const u = (sx * px + sy * py + sz * pz) / determinant
  if (!(u >= 0 && u <= 1)) return 0
  const qx = sy * uz - sz * uy,
    qy = sz * ux - sx * uz,
    qz = sx * uy - sy * ux
  const v = (RAY[0] * qx + RAY[1] * qy + RAY[2] * qz) / determinant
  if (!(v >= 0 && u + v <= 1)) return 0
  if (!((vx * qx + vy * qy + vz * qz) / determinant > 0)) return 0
  // A positive determinant is a face that looks against the ray: it enters there
  return determinant > 0 ? -1 : 1
}
