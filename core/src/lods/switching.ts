import type { Target } from '@stern-gate/contract'

type Screen = Target['screen']

/**
 * Pixels of a screen's height that a length of a metre covers at a distance of a metre: H / (2 · tan(fov / 2)), with
 * the vertical angle of view. At d metres it is d times less.
 */
export const pixelsAtOneMetre = ({ height, fovDegrees }: Screen): number =>
  height / (2 * Math.tan((fovDegrees * Math.PI) / 360))

/** Pixels that a length in metres covers at a distance in metres. */
export const pixelsOf = (length: number, distance: number, screen: Screen): number =>
  (length * pixelsAtOneMetre(screen)) / distance

/** Distance in metres at which a length covers so many pixels. */
export const distanceOf = (length: number, pixels: number, screen: Screen): number =>
  (length * pixelsAtOneMetre(screen)) / pixels

/** Share of the screen's height that a ball covers at a distance: c = r / (d · tan(fov / 2)); 1 fills it. */
export const coverageOf = (radius: number, distance: number, { fovDegrees }: Screen): number =>
  radius / (distance * Math.tan((fovDegrees * Math.PI) / 360))

/** The distance at which a ball has that coverage; Infinity for none. */
export const distanceOfCoverage = (radius: number, coverage: number, { fovDegrees }: Screen): number =>
  coverage > 0 ? radius / (coverage * Math.tan((fovDegrees * Math.PI) / 360)) : Infinity

/** What is known of a level: how far it is off the finest one. */
export interface LevelError {
  level: number
  /** Metres. */
  error: number
}

/** From where on each level is drawn, and from where on nothing is. */
export interface SwitchPlan {
  levels: { level: number; distance: number; coverage: number }[]
  /** From here on it is not drawn. */
  cull: { distance: number; coverage: number }
}

/** What a switch may show, and how small a thing may get before it is left out. */
export interface SwitchLimits {
  /** Pixels of error that are not noticed. */
  pixels: number
  /** Pixels of height under which nothing is drawn. */
  smallest: number
}
export const switchLimits: SwitchLimits = { pixels: 1, smallest: 4 }

/**
 * Where levels may take over: each from the distance on at which its error covers no more than the allowed pixels, and
 * none nearer than the one before it. `radius` is that of a ball around the thing.
 */
export function planSwitches(
  errors: readonly LevelError[],
  radius: number,
  screen: Screen,
  { pixels, smallest }: SwitchLimits = switchLimits,
): SwitchPlan {
  let nearest = 0
  const levels = errors.map(({ level, error }) => {
    // Never at the eye itself: a level without any error may take over where the thing fills the screen
    nearest = Math.max(nearest, distanceOf(error, pixels, screen), distanceOfCoverage(radius, 1, screen))
    return { level, distance: nearest, coverage: coverageOf(radius, nearest, screen) }
  })
  const cull = Math.max(nearest, distanceOf(2 * radius, smallest, screen))
  return { levels, cull: { distance: cull, coverage: coverageOf(radius, cull, screen) } }
}

/** The first level hands over where the thing has this share of the screen's height, and each next one this much further. */
const FIRST_COVERAGE = 0.35,
  FURTHER = 2.5

/** Distances at which so many levels are wished to take over, where nothing else is said. */
export const handOvers = (radius: number, levels: number, screen: Screen): number[] =>
  Array.from({ length: levels }, (_, i) => distanceOfCoverage(radius, FIRST_COVERAGE, screen) * FURTHER ** i)

/**
 * Coverages of a plan, one for each level: the least at which it is drawn; the last one for the end of all, 0 where
 * there is none.
 */
export const coveragesOf = ({ levels, cull }: SwitchPlan, ends: boolean): number[] => [
  ...levels.map((l) => l.coverage),
  ends ? cull.coverage : 0,
]
