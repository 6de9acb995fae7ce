import {
  chainErrors,
  distanceOfCoverage,
  handOvers,
  pixelsAtOneMetre,
  planSwitches,
} from '@stern-gate/core/lods'
import type { AssetState } from '@stern-gate/contract'

/** From where on each coarser level is drawn, and from where on nothing is; metres. */
export interface Switches {
  /** For each level but the finest. */
  levels: readonly number[]
  /** Infinity: it is drawn at any distance. */
  cull: number
}

type Chain = NonNullable<NonNullable<AssetState['mesh']>['chain']>

/** Switches as the file says them; null where it says none, or not one for each level. */
export function switchesOfFile(state: AssetState): Switches | null {
  const chain = state.mesh?.chain
  if (!chain?.coverages || chain.coverages.length < chain.errors.length) return null
  const distances = chain.coverages.map((c) => distanceOfCoverage(chain.radius, c, state.screen))
  return {
    levels: distances.slice(0, chain.errors.length),
    cull: distances[chain.errors.length] ?? Infinity,
  }
}

/** Switches where the error of each level covers a pixel; of levels that are not measured at distances by size alone. */
export function switchesByError(state: AssetState): Switches {
  const chain = state.mesh?.chain
  if (!chain || chain.errors.length === 0) {
    const distances = handOvers(radiusOf(state), Math.max(0, state.levels.length - 1), state.screen)
    return { levels: distances, cull: Infinity }
  }
  const plan = planSwitches(chainErrors(chain), chain.radius, state.screen)
  return { levels: plan.levels.map((l) => l.distance), cull: plan.cull.distance }
}

/** Sides of the finest level's box, metres. */
export function sizeOf(state: AssetState): [number, number, number] {
  const finest = new Set(state.levels[0]?.nodes)
  const boxes = (state.mesh?.nodes ?? []).flatMap((n) => (finest.has(n.path) && n.bounds ? [n.bounds] : []))
  const side = (i: 0 | 1 | 2): number =>
    boxes.length === 0 ? 1 : Math.max(...boxes.map((b) => b.max[i])) - Math.min(...boxes.map((b) => b.min[i]))
  return [side(0), side(1), side(2)]
}
export const radiusOf = (state: AssetState): number => {
  const [x, y, z] = sizeOf(state)
  return Math.sqrt(x * x + y * y + z * z) / 2
}

/** One level in the row: where it stands on the canvas, in pixels of the page, and how far away it is seen. */
export interface LevelColumn {
  level: number
  /** Metres. */
  distance: number
  /** Middle of the column. */
  x: number
  width: number
  /** Pixels of the thing's height. */
  height: number
}

export interface LevelRow {
  columns: LevelColumn[]
  /** Pixels of the page for one of the target's screen: 1, or less where the row would not fit. */
  scale: number
}

const GAP = 26,
  /** A level of a few pixels needs room for its words. */
  LEAST_WIDTH = 112

/**
 * Levels side by side, each at the distance at which it is first seen, at the size that it has on the target's screen;
 * the finest at half the distance of the first switch. All are shrunk by the same where they would not fit.
 */
export function layLevels(
  state: AssetState,
  { levels }: Switches,
  [width, height]: readonly [number, number],
): LevelRow {
  const [x, y, z] = sizeOf(state)
  // Seen from aside, it is as wide as its diagonal over the ground at the most
  const wide = Math.hypot(x, z),
    pixels = pixelsAtOneMetre(state.screen)
  const nearest = Math.max(radiusOf(state) * 1.5, (levels[0] ?? radiusOf(state) * 6) / 2)
  const distances = [nearest, ...levels.map((d) => Math.max(d, nearest))].slice(0, state.levels.length)
  const high = (y * pixels) / nearest
  let scale = Math.min(1, height / Math.max(1, high))
  const least = Math.max(1, Math.min(LEAST_WIDTH, width / distances.length - GAP))
  const widths = (): number[] => distances.map((d) => Math.max(least, ((wide * pixels) / d) * scale) + GAP)
  const total = (): number => widths().reduce((a, b) => a + b, 0)
  for (let n = 0; n < 40 && total() > width + 0.001; n++) scale *= 0.92
  let at = Math.max(0, (width - total()) / 2)
  const columns = widths().map((own, i) => {
    const column: LevelColumn = {
      level: state.levels[i]!.level,
      distance: distances[i]!,
      x: at + own / 2,
      width: own,
      height: ((y * pixels) / distances[i]!) * scale,
    }
    at += own
    return column
  })
  return { columns, scale }
}

/** Error of a level in pixels at a distance: what 99 % of its surface keep. */
export const errorAt = (chain: Chain, i: number, distance: number, state: AssetState): number =>
  (chainErrors(chain)[i]!.error * pixelsAtOneMetre(state.screen)) / distance
