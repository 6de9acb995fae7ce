import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'
import { boundsRadius } from '../../geometry/pointBounds'
import { toFourFigures } from '../../lods/toFourFigures'
import { handOvers, pixelsAtOneMetre } from '../../lods/switching'
import { trianglesOf } from '../../subject/drawnPrimitives'
import type { Subject } from '../../subject/subject'

/** Levels that are offered besides the finest. */
const LEVELS = 3

export const missing = defineRule({
  id: 'lods/missing',
  station: 'lods',
  meta: {
    title: 'A LOD chain where the class needs one',
    why: 'Without coarser levels every distant copy is drawn in full, and tools that scatter meshes refuse it.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['levels found by name', 'triangles of level 0', 'wish of the class'],
  },
  options: z.strictObject({ least: z.int().min(2).default(2).describe('levels that make a chain') }),
  messages: {
    none: {
      byClass: true,
      text: 'Only level 0, with {triangles|n} triangles; a {class} above {limit|n} needs a chain.',
    },
    short: { byClass: true, text: '{levels} levels; at least {least} are asked for.' },
  },
  labels: {
    make: 'Make {levels} levels, each half of the one before',
    shows: 'Make levels whose error stays below a pixel',
    card: 'Make crossed cards as the next level',
  },
  judge(subject, { least }): RawFinding<'none' | 'short', 'make' | 'shows' | 'card'>[] {
    const limit = subject.class.lodsAbove
    const levels = subject.parts.levels.size
    if (limit === null || levels === 0 || levels >= least) return []
    const triangles = trianglesOf(subject.parts.finest)
    if (triangles <= limit) return []
    return [
      {
        message: levels === 1 ? ('none' as const) : ('short' as const),
        data: { triangles, class: subject.class.title.toLowerCase(), limit, levels, least },
        place: { kind: 'asset' as const },
        gauge: { value: triangles, unit: 'triangles' as const, max: limit, scale: 'linear' as const },
        measure: triangles,
        remedies:
          levels === 1
            ? [
                { remedy: 'lods/make', options: { levels: LEVELS, ratio: 0.5 }, label: 'make' as const },
                {
                  remedy: 'lods/make',
                  options: { metres: toFourFigures(errorsAllowed(subject)) },
                  label: 'shows' as const,
                },
                // What is not drawn from some distance on is seen far away in great numbers before
                ...(subject.class.cull
                  ? [{ remedy: 'lods/make-card', options: { cards: 3 }, label: 'card' as const }]
                  : []),
              ]
            : [],
      },
    ]
  },
})

/** What each offered level may be off by, metres, so that it covers a pixel where the one before hands over. */
function errorsAllowed({ bounds, target }: Subject): number[] {
  if (!bounds) return []
  return handOvers(boundsRadius(bounds), LEVELS, target.screen).map(
    (distance) => distance / pixelsAtOneMetre(target.screen),
  )
}
