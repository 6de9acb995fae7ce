import type { KnownOrigin, Origin, Rulebook } from '@stern-gate/contract'
import { fitsGlob } from './glob'

/** Where an asset came from: what was said of it, else what the rulebook says of its folder (later lines win). */
export function originOf(
  rulebook: Pick<Rulebook, 'origins' | 'terms'>,
  path: string,
  given: Origin | null,
): KnownOrigin {
  const byFolder = given ? null : (rulebook.origins.findLast((o) => fitsGlob(o.files, path))?.origin ?? null)
  const origin = given ?? byFolder
  return {
    given: origin,
    by: given ? 'asset' : byFolder ? 'rulebook' : null,
    terms: origin
      ? Object.hasOwn(rulebook.terms, origin.terms)
        ? rulebook.terms[origin.terms]!
        : null
      : null,
  }
}
