/** Writes the light that comes from a direction (of length 1) into `out`: linear red, green and blue. */
export type LightFrom = (x: number, y: number, z: number, out: Float64Array) => void

/** Light from all sides, for surfaces of every roughness. */
export interface PrefilteredLight {
  /** Edge of a face of the first level, in texels. */
  size: number
  /**
   * From a mirror to roughness 1; every level half as large as the one before. Six faces one after the other
   * in the order +X −X +Y −Y +Z −Z, rows as a cube texture has them, three numbers a texel.
   */
  levels: Float32Array[]
}

/** Edge of a face of the roughest level: enough for light that changes slowly. */
const LAST_SIZE = 8
/** Levels that weigh every texel of a small cube in place of taking samples. */
const WHOLE_LEVELS = 2
/** Edge of a face of that small cube. */
const WHOLE_SIZE = 16
/** Samples of a lobe; the sharpest spreads over a texel or two. */
const SAMPLES = 48,
  SHARPEST_SAMPLES = 16

/** The roughness that a level is made for; a surface’s level is found by its inverse. */
export const roughnessOfLevel = (level: number, last: number): number =>
  last > 0 ? 1 - Math.sqrt(1 - level / last) : 0

/**
 * Light from all sides, filtered with the GGX lobe of each level’s roughness as seen straight on. Sharp levels
 * take samples of the visible normals, each from a mip as coarse as the part of the lobe it stands for; rough
 * ones weigh every texel of a small cube. The last level, at roughness 1, is irradiance divided by π.
 *
 * `size`: edge of a face in texels, a power of two from 16.
 * Source: Heitz, “Sampling the GGX Distribution of Visible Normals”, JCGT 7(4), 2018.
 */
export function prefilterLight(from: LightFrom, size: number): PrefilteredLight {
  const mips = mipsOf(captured(from, size), size)
  const last = Math.log2(size / LAST_SIZE)
  const levels = Array.from({ length: last + 1 }, (_, level) => {
    const edge = size >> level
    if (level === 0) return mips[0]!
    const alpha = roughnessOfLevel(level, last) ** 2
    return level > last - WHOLE_LEVELS
      ? weighed(mips.at(-1)!, edge, alpha)
      : sampled(mips, edge, lobeOf(alpha, size, level === 1 ? SHARPEST_SAMPLES : SAMPLES))
  })
  return { size, levels }
}

/** Into `out`: the direction through a point of a face, with s and t from −1 to 1; not of length 1. */
export function directionOfTexel(face: number, s: number, t: number, out: Float64Array): void {
  const sign = face % 2 === 0 ? 1 : -1
  if (face < 2) {
    out[0] = sign
    out[1] = -t
    out[2] = -sign * s
  } else if (face < 4) {
    out[0] = s
    out[1] = sign
    out[2] = sign * t
  } else {
    out[0] = sign * s
    out[1] = -t
    out[2] = sign
  }
}

/** Calls back for every texel of a cube, with its direction of length 1. */
function eachTexel(
  edge: number,
  visit: (at: number, x: number, y: number, z: number, face: number, s: number, t: number) => void,
): void {
  const way = new Float64Array(3)
  for (let face = 0, at = 0; face < 6; face++)
    for (let row = 0; row < edge; row++)
      for (let column = 0; column < edge; column++, at += 3) {
        const s = ((column + 0.5) * 2) / edge - 1,
          t = ((row + 0.5) * 2) / edge - 1
        directionOfTexel(face, s, t, way)
        const long = Math.sqrt(1 + s * s + t * t)
        visit(at, way[0]! / long, way[1]! / long, way[2]! / long, face, s, t)
      }
}

/** The cube as it is seen, four samples a texel so that small bright things keep their light. */
function captured(from: LightFrom, edge: number): Float32Array {
  const light = new Float32Array(6 * edge * edge * 3),
    way = new Float64Array(3),
    seen = new Float64Array(3),
    off = 0.5 / edge
  eachTexel(edge, (at, _x, _y, _z, face, s, t) => {
    for (let part = 0; part < 4; part++) {
      const ps = s + (part & 1 ? off : -off),
        pt = t + (part & 2 ? off : -off)
      directionOfTexel(face, ps, pt, way)
      const long = Math.sqrt(1 + ps * ps + pt * pt)
      from(way[0]! / long, way[1]! / long, way[2]! / long, seen)
      for (let c = 0; c < 3; c++) light[at + c]! += seen[c]! / 4
    }
  })
  return light
}

/** The cube and its halves, down to the small one that rough levels weigh. */
function mipsOf(first: Float32Array, size: number): Float32Array[] {
  const mips = [first]
  for (let edge = size; edge > WHOLE_SIZE; edge /= 2) mips.push(halved(mips.at(-1)!, edge))
  return mips
}
function halved(light: Float32Array, edge: number): Float32Array {
  const half = edge / 2,
    row = edge * 3,
    small = new Float32Array(6 * half * half * 3)
  for (let face = 0, at = 0; face < 6; face++)
    for (let y = 0; y < half; y++)
      for (let x = 0; x < half; x++)
        for (let c = 0; c < 3; c++, at++) {
          const corner = (face * edge * edge + y * 2 * edge + x * 2) * 3 + c
          small[at] =
            (light[corner]! + light[corner + 3]! + light[corner + row]! + light[corner + row + 3]!) / 4
        }
  return small
}

/** One sample of a lobe: where it points beside the normal, what it counts, and how coarse a mip it reads. */
interface LobeSample {
  along: number
  u: number
  v: number
  mip: number
}
function lobeOf(alpha: number, size: number, samples: number): LobeSample[] {
  // Coarser cubes read badly at the edges of their faces
  const coarsest = Math.log2(size / WHOLE_SIZE)
  const square = alpha * alpha
  const all: LobeSample[] = []
  for (let i = 0; i < samples; i++) {
    const a = (i + 0.5) / samples,
      b = bitsReversed(i)
    const q = 1 / (1 - a + square * a)
    const along = (1 - a - square * a) * q
    if (along <= 0) continue
    const out = 2 * alpha * Math.sqrt(a * (1 - a)) * q,
      phi = 2 * Math.PI * b
    // Seen straight on, the density of a reflected direction is D(H) / 4 = 1 / (4 π α² q²)
    const solid = (4 * Math.PI * square * q * q) / samples,
      texel = (4 * Math.PI) / (6 * size * size)
    all.push({
      along,
      u: out * Math.cos(phi),
      v: out * Math.sin(phi),
      mip: Math.min(coarsest, Math.max(0, Math.round(0.5 * Math.log2(solid / texel)))),
    })
  }
  return all
}
/** The bits of a number behind the point, in reverse: evenly spread between 0 and 1 (van der Corput). */
function bitsReversed(i: number): number {
  let value = 0
  for (let bit = 0.5, rest = i; rest > 0; rest >>= 1, bit /= 2) if (rest & 1) value += bit
  return value
}

function sampled(mips: readonly Float32Array[], edge: number, lobe: readonly LobeSample[]): Float32Array {
  const light = new Float32Array(6 * edge * edge * 3),
    size = Math.sqrt(mips[0]!.length / 18),
    seen = new Float64Array(3)
  eachTexel(edge, (at, x, y, z) => {
    // Tangents after Duff and others, “Building an Orthonormal Basis, Revisited”, JCGT 6(1), 2017
    const sign = z >= 0 ? 1 : -1,
      a = -1 / (sign + z),
      b = x * y * a
    let weight = 0
    for (const { along, u, v, mip } of lobe) {
      readCube(
        mips[mip]!,
        size >> mip,
        x * along + (1 + sign * x * x * a) * u + b * v,
        y * along + sign * b * u + (sign + y * y * a) * v,
        z * along - sign * x * u - y * v,
        seen,
      )
      weight += along
      for (let c = 0; c < 3; c++) light[at + c]! += seen[c]! * along
    }
    for (let c = 0; c < 3; c++) light[at + c]! /= weight
  })
  return light
}

/** Into `out`: the light of a cube in a direction, between four texels of one face. */
function readCube(
  light: Float32Array,
  edge: number,
  x: number,
  y: number,
  z: number,
  out: Float64Array,
): void {
  const ax = Math.abs(x),
    ay = Math.abs(y),
    az = Math.abs(z)
  let face: number, s: number, t: number
  if (ax >= ay && ax >= az) {
    face = x > 0 ? 0 : 1
    s = -z / x
    t = -y / ax
  } else if (ay >= az) {
    face = y > 0 ? 2 : 3
    s = x / ay
    t = z / y
  } else {
    face = z > 0 ? 4 : 5
    s = x / z
    t = -y / az
  }
  const px = Math.min(edge - 1, Math.max(0, ((s + 1) * edge) / 2 - 0.5)),
    py = Math.min(edge - 1, Math.max(0, ((t + 1) * edge) / 2 - 0.5))
  const left = Math.floor(px),
    top = Math.floor(py),
    right = Math.min(edge - 1, left + 1),
    foot = Math.min(edge - 1, top + 1)
  const fx = px - left,
    fy = py - top,
    base = face * edge * edge
  const a = (base + top * edge + left) * 3,
    b = (base + top * edge + right) * 3,
    d = (base + foot * edge + left) * 3,
    e = (base + foot * edge + right) * 3
  for (let c = 0; c < 3; c++) {
    const above = light[a + c]! * (1 - fx) + light[b + c]! * fx
    out[c] = above * (1 - fy) + (light[d + c]! * (1 - fx) + light[e + c]! * fx) * fy
  }
}

/** Every texel of a small cube counts by the lobe and by the part of the sphere that it covers. */
function weighed(source: Float32Array, edge: number, alpha: number): Float32Array {
  const light = new Float32Array(6 * edge * edge * 3),
    square = alpha * alpha
  const from = Math.sqrt(source.length / 18),
    ways = new Float64Array(source.length + source.length / 3)
  eachTexel(from, (at, x, y, z, _face, s, t) => {
    ways.set([x, y, z, (1 + s * s + t * t) ** -1.5], (at / 3) * 4)
  })
  eachTexel(edge, (at, x, y, z) => {
    let weight = 0
    for (let i = 0, way = 0; i < source.length; i += 3, way += 4) {
      const toward = x * ways[way]! + y * ways[way + 1]! + z * ways[way + 2]!
      if (toward <= 0) continue
      // With the half vector between, (N·H)² = (1 + N·L) / 2; what is the same for all is left out
      const d = 1 + square + (square - 1) * toward,
        w = (toward * ways[way + 3]!) / (d * d)
      weight += w
      for (let c = 0; c < 3; c++) light[at + c]! += source[i + c]! * w
    }
    for (let c = 0; c < 3; c++) light[at + c]! /= weight
  })
  return light
}
