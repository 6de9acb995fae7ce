import type { Bounds, QuadSample } from '@stern-gate/contract'
import { hashBits } from './hashBits'
import { longestSide } from './pointBounds'

/** A surface by its places (x y z …) and three place numbers a triangle. */
export interface Corners {
  places: Float32Array
  corners: Uint32Array
}

/** Places are told apart by this part of the longest side: noise of single numbers is far below it. */
const STEPS = 65_536
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
  for (let p = 0; p < hashes.length; p++) {
    const x = Math.round((places[p * 3]! - x0) * scale),
      y = Math.round((places[p * 3 + 1]! - y0) * scale),
      z = Math.round((places[p * 3 + 2]! - z0) * scale)
    hashes[p] = Number.isFinite(x + y + z) ? Math.max(1, hashBits(x, y, z)) : 0
  }
  return hashes
}

/** The hash up to which at least so many places lie: the same places are chosen in every mesh that has them. */
export function hashOfLeast(lists: readonly Uint32Array[], wanted: number): number {
  const bins = new Uint32Array(BINS)
  for (const list of lists) for (const hash of list) if (hash > 0) bins[hash >>> 16]!++
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
export function quadsAt(surfaces: readonly Corners[], whole: Bounds, upTo: number): Map<number, number> {
  const quads = new Map<number, number>(),
    unsure = new Set<number>()
  for (const { places, corners } of surfaces) {
    const hashes = placeHashes(places, whole)
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
  const isChosen = (p: number): boolean => hashes[p]! > 0 && hashes[p]! <= upTo
  const triangles = Math.floor(corners.length / 3)
  // Every edge of a triangle that has a chosen corner; then, of all triangles, those that have such an edge, too
  const ends = new Uint8Array(hashes.length),
    edges = new Map<string, { a: number; b: number; across: number[] }>()
  const eachEdge = (t: number, see: (a: number, b: number, across: number) => void): void => {
    for (let i = 0; i < 3; i++)
      see(corners[t * 3 + i]!, corners[t * 3 + ((i + 1) % 3)]!, corners[t * 3 + ((i + 2) % 3)]!)
  }
  const isThere = (t: number): boolean => [0, 1, 2].every((i) => corners[t * 3 + i]! < hashes.length)
  for (let t = 0; t < triangles; t++) {
    if (!isChosen(corners[t * 3]!) && !isChosen(corners[t * 3 + 1]!) && !isChosen(corners[t * 3 + 2]!))
      continue
    if (!isThere(t)) continue
    eachEdge(t, (a, b) => {
      ends[a] = ends[b] = 1
      edges.set(edgeKey(a, b), { a, b, across: [] })
    })
  }
  for (let t = 0; t < triangles; t++) {
    const [a, b, c] = [corners[t * 3]!, corners[t * 3 + 1]!, corners[t * 3 + 2]!]
    if ((ends[a] ?? 0) + (ends[b] ?? 0) + (ends[c] ?? 0) < 2 || !isThere(t)) continue
    eachEdge(t, (from, to, across) => edges.get(edgeKey(from, to))?.across.push(across))
  }
  return [...edges.values()]
    .filter(({ a, b, across }) => across.length === 2 && [a, b, ...across].some(isChosen))
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
export function quadSample(surfaces: readonly Corners[], whole: Bounds): QuadSample {
  const upTo = hashOfLeast(
    surfaces.map((s) => placeHashes(s.places, whole)),
    KEPT_PLACES,
  )
  const kept = [...quadsAt(surfaces, whole, upTo)].sort(([a], [b]) => a - b).slice(0, KEPT_QUADS)
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
