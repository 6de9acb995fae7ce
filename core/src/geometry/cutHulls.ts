import { hullMesh, type HullMesh } from './hullMesh'
import type { TriangleList } from './joinTriangles'

/** Triangles of a part as bare corners: nine numbers each. */
type Soup = Float64Array

interface Part {
  soup: Soup
  /** Of its hull, cubic metres. */
  volume: number
  /** The cut that is worth most; undefined: not looked for yet, null: none is worth it. */
  cut: Cut | null | undefined
}
interface Cut {
  sides: [Part, Part]
  saves: number
}

export interface CutLimits {
  /** Hulls at most. */
  hulls: number
  /** Corners of each at most. */
  corners: number
  /** A cut is made where it saves more than this share of the volume of the whole hull. */
  worth: number
}

/** Places along each axis where a cut is tried, as shares of the part's box. */
const TRIED = [0.12, 0.24, 0.36, 0.5, 0.64, 0.76, 0.88]
/** Corners of the hulls by which cuts are compared. */
const ROUGH = 40
/** Parts of more triangles are compared by so many of them, spread evenly. */
const MOST_COMPARED = 6000

/**
 * Several convex hulls that lie closer to a surface than one: the part whose best cut along an axis saves most volume
 * is cut in two, again and again, as long as that is worth it. Triangles are clipped at the cut, so that both hulls
 * meet there. Needs no closed surface. Empty where no hull has a volume.
 */
export function cutHulls(
  surface: readonly Pick<TriangleList, 'positions' | 'indices'>[],
  { hulls, corners, worth }: CutLimits,
): HullMesh[] {
  const whole = partOf(soupOf(surface))
  const parts = [whole],
    enough = whole.volume * worth
  while (parts.length < hulls) {
    let best: Part | null = null
    for (const part of parts) {
      if (part.cut === undefined) part.cut = worthwhileCut(part, enough)
      if (part.cut && part.cut.saves > (best?.cut?.saves ?? 0)) best = part
    }
    if (!best) break
    parts.splice(parts.indexOf(best), 1, ...best.cut!.sides)
  }
  return parts.flatMap((part) => hullMesh(part.soup, corners) ?? [])
}

/** All triangles; one with a corner that no vertex has, or that is no place, is left out. */
function soupOf(surface: readonly Pick<TriangleList, 'positions' | 'indices'>[]): Soup {
  const soup = new Float64Array(surface.reduce((sum, s) => sum + s.indices.length * 3, 0))
  let at = 0
  for (const { positions, indices } of surface)
    for (let t = 0; t + 2 < indices.length; t += 3) {
      const from = at
      for (let i = 0; i < 3; i++)
        for (let axis = 0; axis < 3; axis++) soup[at++] = positions[indices[t + i]! * 3 + axis] ?? NaN
      if (!soup.subarray(from, at).every(Number.isFinite)) at = from
    }
  return soup.slice(0, at)
}

const partOf = (soup: Soup): Part => ({ soup, volume: roughVolume(soup), cut: undefined })

const roughVolume = (soup: Soup): number => hullMesh(soup, ROUGH, true)?.volume ?? 0

/**
 * The best cut; where none saves enough, a cut through the middle whose sides can then be cut with profit – a ring saves
 * nothing in halves, and much in quarters. `saves` is then what all of them save together.
 */
function worthwhileCut(part: Part, enough: number): Cut | null {
  const best = bestCut(part)
  if (best && best.saves > enough) return best
  let further: Cut | null = null
  for (let axis = 0; axis < 3; axis++) {
    const [low, high] = reachOf(part.soup, axis)
    const [below, above] = cutAt(part.soup, axis, (low + high) / 2)
    if (below.length === 0 || above.length === 0) continue
    const sides: [Part, Part] = [partOf(below), partOf(above)]
    let saves = part.volume - sides[0].volume - sides[1].volume
    for (const side of sides) {
      const cut = bestCut(side)
      saves += cut?.saves ?? 0
      if (cut && cut.saves > enough) side.cut = cut
    }
    if (saves > (further?.saves ?? enough)) further = { sides, saves }
  }
  return further
}

function bestCut(part: Part): Cut | null {
  const sample = sampled(part.soup)
  const reference = sample === part.soup ? part.volume : roughVolume(sample)
  let best: { axis: number; at: number } | null = null,
    least = reference
  for (let axis = 0; axis < 3; axis++) {
    const [low, high] = reachOf(sample, axis)
    for (const share of TRIED) {
      const at = low + (high - low) * share
      const [below, above] = cutAt(sample, axis, at)
      const volume = roughVolume(below) + roughVolume(above)
      if (below.length > 0 && above.length > 0 && volume < least) {
        least = volume
        best = { axis, at }
      }
    }
  }
  if (!best) return null
  const [below, above] = cutAt(part.soup, best.axis, best.at)
  const sides: [Part, Part] = [partOf(below), partOf(above)]
  return { sides, saves: part.volume - sides[0].volume - sides[1].volume }
}

function sampled(soup: Soup): Soup {
  const triangles = soup.length / 9
  if (triangles <= MOST_COMPARED) return soup
  const kept = new Float64Array(MOST_COMPARED * 9)
  for (let n = 0; n < MOST_COMPARED; n++) {
    const t = Math.floor((n * triangles) / MOST_COMPARED) * 9
    kept.set(soup.subarray(t, t + 9), n * 9)
  }
  return kept
}

function reachOf(soup: Soup, axis: number): [number, number] {
  let low = Infinity,
    high = -Infinity
  for (let k = axis; k < soup.length; k += 3) {
    low = Math.min(low, soup[k]!)
    high = Math.max(high, soup[k]!)
  }
  return [low, high]
}

/** Triangles on both sides of a plane across an axis; those that it meets are clipped (Sutherland, Hodgman 1974). */
function cutAt(soup: Soup, axis: number, at: number): [Soup, Soup] {
  const below: number[] = [],
    above: number[] = []
  for (let t = 0; t < soup.length; t += 9) {
    const [a, b, c] = [soup[t + axis]!, soup[t + 3 + axis]!, soup[t + 6 + axis]!]
    if (a <= at && b <= at && c <= at) copy(soup, t, below)
    else if (a >= at && b >= at && c >= at) copy(soup, t, above)
    else {
      clip(soup, t, axis, at, 1, below)
      clip(soup, t, axis, at, -1, above)
    }
  }
  return [Float64Array.from(below), Float64Array.from(above)]
}

function copy(soup: Soup, t: number, into: number[]): void {
  for (let k = 0; k < 9; k++) into.push(soup[t + k]!)
}

function clip(soup: Soup, t: number, axis: number, at: number, sign: 1 | -1, into: number[]): void {
  const kept: number[] = []
  for (let i = 0; i < 3; i++) {
    const p = t + i * 3,
      q = t + ((i + 1) % 3) * 3
    const dp = (at - soup[p + axis]!) * sign,
      dq = (at - soup[q + axis]!) * sign
    if (dp >= 0) kept.push(soup[p]!, soup[p + 1]!, soup[p + 2]!)
    if (dp > 0 !== dq > 0 && dp !== dq) {
      const share = dp / (dp - dq)
      for (let k = 0; k < 3; k++) kept.push(soup[p + k]! + (soup[q + k]! - soup[p + k]!) * share)
    }
  }
  for (let i = 3; i + 5 < kept.length; i += 3)
    into.push(...kept.slice(0, 3), ...kept.slice(i, i + 3), ...kept.slice(i + 3, i + 6))
}
