import type { Recipe, RecipeStep, RemedyOptions, Rulebook, SharedSurface } from '@stern-gate/contract'

/** The remedy that sets the surface of a slot by values. */
export const SURFACE = 'slots/surface'

/** Told apart by the type alone: the values of surfaces cannot be forgotten where an output is made or found. */
declare const isResolved: unique symbol

/** A recipe in which every surface of the rulebook stands by its values: what an output is made of. */
export type ResolvedRecipe = Recipe & { readonly [isResolved]: true }

type Surfaces = Readonly<Rulebook['surfaces']>

/** What a surface of the rulebook comes to: the preset at the end of its chain, and the values over it. */
export interface ResolvedSurface {
  preset: string | null
  values: SharedSurface['values']
}

/** Follows a surface through those that it follows; null where one is missing or they go round in a circle. */
export function resolveSurface(surfaces: Surfaces, name: string): ResolvedSurface | null {
  const chain: SharedSurface[] = [],
    seen = new Set<string>()
  for (let next: string | null = name; next !== null;) {
    const surface: SharedSurface | undefined = Object.hasOwn(surfaces, next) ? surfaces[next] : undefined
    if (!surface || seen.has(next)) return null
    seen.add(next)
    chain.unshift(surface)
    next = surface.follows
  }
  return {
    preset: chain[0]!.preset,
    values: Object.assign({}, ...chain.map((s) => s.values)) as SharedSurface['values'],
  }
}

/** The names that a surface follows, the nearest first. */
export function surfacesBehind(surfaces: Surfaces, name: string): string[] {
  const found: string[] = []
  for (let next = surfaces[name]?.follows; next && !found.includes(next); next = surfaces[next]?.follows)
    found.push(next)
  return found
}

/** Name of the rulebook's surface that a step follows; null: none. */
export const sharedOf = (step: Pick<RecipeStep, 'remedy' | 'options'>): string | null =>
  step.remedy === SURFACE && typeof step.options['shared'] === 'string' ? step.options['shared'] : null

/**
 * Puts the values of the rulebook's surfaces into the steps that name them; what a step says itself goes first. A
 * surface that is not there stays named, and its step says so when it is applied.
 */
export function resolveSurfaces(recipe: Recipe, surfaces: Surfaces): ResolvedRecipe {
  const steps = recipe.steps.map((step) => {
    const name = sharedOf(step),
      surface = name === null ? null : resolveSurface(surfaces, name)
    if (!surface) return step
    const own = Object.fromEntries(
      Object.entries(step.options).filter(([key, value]) => value !== null && key !== 'shared'),
    )
    const options: RemedyOptions = {
      ...(surface.preset === null ? {} : { preset: surface.preset }),
      ...surface.values,
      ...own,
      called: name,
    }
    return { ...step, options }
  })
  return { steps } as ResolvedRecipe
}

/** What is wrong with the surfaces of a rulebook, with the place of each; empty: nothing. */
export function surfaceMistakes(
  surfaces: Surfaces,
  fits: (options: RemedyOptions) => string | null,
): { part: string; why: string }[] {
  return Object.keys(surfaces).flatMap((name) => {
    const { follows, preset, values } = surfaces[name]!
    const part = `surfaces.${name}`
    if (follows !== null && !Object.hasOwn(surfaces, follows))
      return [{ part: `${part}.follows`, why: `there is no surface called ${follows}` }]
    if (follows !== null && preset !== null)
      return [{ part: `${part}.preset`, why: 'it follows another surface, which says the preset' }]
    if (!resolveSurface(surfaces, name))
      return [{ part: `${part}.follows`, why: 'surfaces follow one another in a circle' }]
    const wrong = fits({ slot: name, ...(preset === null ? {} : { preset }), ...values })
    return wrong === null ? [] : [{ part: `${part}.values`, why: wrong }]
  })
}
