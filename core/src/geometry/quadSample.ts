import type { Bounds, QuadSample } from '@stern-gate/contract'
import { hashBits } from './hashBits'
import { longestSide } from './pointBounds'

/** A surface by the hashes of its places (see placeHashes) and three place numbers a triangle. */
export interface HashedSurface {
  hashes: Uint32Array
  corners: Uint32Array
}

/** Places are told apart by this part of the longest side: noise of single numbers is far below it. */
const STEPS = 65_536
/** Further off than this is no place of the thing. */
const MOST_STEPS = 1e9
/** Bins of the histogram that finds the least hashes. */
const BINS = 65_536

/**
 * A hash of each place, by where it stands in the box of the whole: the same for a copy that was moved or scaled.
 * What is no place gets 0.
 */
export function placeHashes(places: Float32Array, whole: Bounds): Uint32Array {
  const scale = STEPS / Math.max(longestSide(whole), 1e-30),
    [x0, y0, z0] = whole.min
  const hashes = new Uint32Array(places.length / 3)
  for (let p = 0, k = 0; p < hashes.length; p++, k += 3) {
    const x = (places[k]! - x0) * scale + 0.5,
      y = (places[k + 1]! - y0) * scale + 0.5,
      z = (places[k + 2]! - z0) * scale + 0.5
    // Cut to whole steps by | 0, which is quicker than rounding
    if (Math.abs(x) + Math.abs(y) + Math.abs(z) < MOST_STEPS) hashes[p] = hashBits(x | 0, y | 0, z | 0) || 1
  }
  return hashes
}

/** The hash up to which at least so many places lie: the same places are chosen in every mesh that has them. */
export function hashOfLeast(surfaces: readonly HashedSurface[], wanted: number): number {
  const bins = new Uint32Array(BINS)
  for (const { hashes } of surfaces) for (const hash of hashes) if (hash > 0) bins[hash >>> 16]!++
  let sum = 0
  for (let bin = 0; bin < BINS; bin++) {
    sum += bins[bin]!
    if (sum >= wanted) return bin * 65_536 + 65_535
  }
  return 0xffff_ffff
}

/**
 * Pairs of triangles that share an edge and have a corner among the chosen places: a hash of their four corners, with
 * a hash of the two that the edge joins. Edges of one triangle or of more than two are left out, and so are four
 * corners that are cut both ways in one surface.
 */
export function quadsAt(surfaces: readonly HashedSurface[], upTo: number): Map<number, number> {
  const quads = new Map<number, number>(),
    unsure = new Set<number>()
  for (const { hashes, corners } of surfaces) {
    for (const { edge, across } of pairsAt(hashes, corners, upTo)) {
      const [a, b] = edge,
        four = [a, b, ...across].sort((x, y) => x - y)
      if (new Set(four).size < 4) continue
      const key = hashBits(hashBits(four[0]!, four[1]!, four[2]!), four[3]!, 4),
        diagonal = hashBits(Math.min(a, b), Math.max(a, b), 2)
      const known = quads.get(key)
      if (known !== undefined && known !== diagonal) unsure.add(key)
      quads.set(key, diagonal)
    }
  }
  for (const key of unsure) quads.delete(key)
  return quads
}

interface TrianglePair {
  /** Hashes of the places that the shared edge joins, and of the two across from it. */
  edge: [number, number]
  across: number[]
}

function pairsAt(hashes: Uint32Array, corners: Uint32Array, upTo: number): TrianglePair[] {
  const chosen = new Uint8Array(hashes.length)
  for (let p = 0; p < hashes.length; p++) if (hashes[p]! > 0 && hashes[p]! <= upTo) chosen[p] = 1
  const triangles = corners.length - (corners.length % 3),
    ends = new Uint8Array(hashes.length),
    edges = new Map<string, { a: number; b: number; across: number[] }>()
  const eachEdge = (k: number, see: (a: number, b: number, across: number) => void): void => {
    for (let i = 0; i < 3; i++) see(corners[k + i]!, corners[k + ((i + 1) % 3)]!, corners[k + ((i + 2) % 3)]!)
  }
  const isThere = (k: number): boolean => [0, 1, 2].every((i) => corners[k + i]! < hashes.length)
  // Every edge of a triangle that has a chosen corner; then, of all triangles, those that have such an edge, too. Most
  // triangles are looked at and left: flags by number, and nothing made for them
  for (let k = 0; k < triangles; k += 3) {
    if (!(chosen[corners[k]!]! | chosen[corners[k + 1]!]! | chosen[corners[k + 2]!]!) || !isThere(k)) continue
    eachEdge(k, (a, b) => {
      ends[a] = ends[b] = 1
      edges.set(edgeKey(a, b), { a, b, across: [] })
    })
  }
  for (let k = 0; k < triangles; k += 3) {
    const a = ends[corners[k]!]!,
      b = ends[corners[k + 1]!]!,
      c = ends[corners[k + 2]!]!
    // Two of the three at least; a corner that is not there has no flag
    if (!((a & b) | (b & c) | (c & a)) || !isThere(k)) continue
    eachEdge(k, (from, to, across) => edges.get(edgeKey(from, to))?.across.push(across))
  }
  return [...edges.values()]
    .filter(({ a, b, across }) => across.length === 2 && [a, b, ...across].some((p) => chosen[p] === 1))
    .map(({ a, b, across }) => ({
      edge: [hashes[a]!, hashes[b]!],
      across: across.map((p) => hashes[p]!),
    }))
}

const edgeKey = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`)

/** Places whose quads are kept of a mesh, and quads at most. */
const KEPT_PLACES = 24
const KEPT_QUADS = 400

/** Quads of a surface by which another version of it can be held against it. */
export function quadSample(surfaces: readonly HashedSurface[]): QuadSample {
  const upTo = hashOfLeast(surfaces, KEPT_PLACES)
  const kept = [...quadsAt(surfaces, upTo)].sort(([a], [b]) => a - b).slice(0, KEPT_QUADS)
  return { corners: kept.map(([four]) => four), diagonals: kept.map(([, diagonal]) => diagonal) }
}

/** Four corners that two surfaces share: how many, and how many of them are cut along the other diagonal. */
export interface SharedCuts {
  shared: number
  other: number
}

export function comparedCuts(a: ReadonlyMap<number, number>, b: ReadonlyMap<number, number>): SharedCuts {
  let shared = 0,
    other = 0
  for (const [four, diagonal] of a) {
    const there = b.get(four)
    if (there === undefined) continue
    shared++
    if (there !== diagonal) other++
  }
  return { shared, other }
}

/** The same for two samples. */
export const comparedSamples = (a: QuadSample, b: QuadSample): SharedCuts =>
  comparedCuts(quadsOf(a), quadsOf(b))

const quadsOf = ({ corners, diagonals }: QuadSample): Map<number, number> =>
  new Map(corners.map((four, i) => [four, diagonals[i]!]))
