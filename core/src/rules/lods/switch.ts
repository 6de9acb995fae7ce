import * as z from 'zod'
import type { ChainFacts } from '@stern-gate/contract'
import { chainErrors } from '../../lods/chainErrors'
import {
  coveragesOf,
  distanceOfCoverage,
  pixelsOf,
  planSwitches,
  type LevelError,
} from '../../lods/switching'
import { toFourFigures } from '../../lods/toFourFigures'
import type { Subject } from '../../subject/subject'
import { defineRule, type RawFinding } from '../defineRule'

type Message = 'shows' | 'late' | 'count'

export const switchRule = defineRule({
  id: 'lods/switch',
  station: 'lods',
  meta: {
    title: 'Levels are switched where it does not show',
    why: 'A level that comes too near is seen to pop; one that comes far too late draws triangles that nobody can tell apart.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['deviation of every level', 'coverages in the file', 'screen and lens of the target'],
  },
  options: z.strictObject({
    pixels: z.number().positive().default(1).describe('of error that are not noticed'),
    furthest: z
      .boolean()
      .default(false)
      .describe('judged by the furthest place of a level, not by what 99 % of its surface keep'),
    late: z
      .number()
      .min(1)
      .default(4)
      .describe('times as far as it could be that a switch may lie, before it is called late'),
  }),
  messages: {
    shows:
      'LOD {level} comes at {distance|m} in the file; there it is {error} pixels off on the {target}. ' +
      'At {wanted|m} it is {pixels}.',
    late: {
      level: 'note',
      text:
        'LOD {level} comes at {distance|m} in the file; ' +
        'from {wanted|m} on it is no more than {pixels} pixels off on the {target}.',
    },
    count:
      'The file has {coverages|n|coverage|coverages} for {levels|n|level|levels}; which belongs to which is not said.',
  },
  labels: { set: 'Switch where it does not show' },
  judge(subject, { pixels, late, furthest }) {
    const chain = subject.mesh?.chain,
      levels = subject.parts.levels
    if (!chain?.coverages || chain.errors.length === 0) return []
    const errors = chainErrors(chain, furthest)
    const plan = planSwitches(errors, chain.radius, subject.target.screen, { pixels, smallest: 4 })
    const remedies = [
      {
        remedy: 'lods/set-switches',
        options: { coverages: toFourFigures(coveragesOf(plan, chain.coverages.length > levels.size - 1)) },
        label: 'set' as const,
      },
    ]
    if (chain.coverages.length !== levels.size && chain.coverages.length !== levels.size - 1)
      return [
        {
          message: 'count',
          data: { coverages: chain.coverages.length, levels: levels.size },
          place: { kind: 'asset' },
          remedies,
        },
      ]
    return errors.flatMap((error, i): RawFinding<Message, 'set'>[] => {
      const found = levelFinding(subject, chain, error, i, {
        pixels,
        late,
        wanted: plan.levels[i]!.distance,
      })
      return found ? [{ ...found, remedies }] : []
    })
  },
})

/** What is wrong with the switch to one level; null: nothing. */
function levelFinding(
  subject: Subject,
  { radius, coverages }: ChainFacts,
  { level, error: off }: LevelError,
  i: number,
  { pixels, late, wanted }: { pixels: number; late: number; wanted: number },
): RawFinding<Message, 'set'> | null {
  const { screen, title } = subject.target
  const distance = distanceOfCoverage(radius, coverages![i]!, screen),
    node = subject.parts.levels.get(level)?.[0]
  if (!node || !(distance > 0) || distance === Infinity) return null
  const error = pixelsOf(off, distance, screen),
    message = error > pixels * TOLERANCE ? 'shows' : distance > wanted * late ? 'late' : null
  if (!message) return null
  return {
    message,
    data: { level, distance, error, wanted, pixels, target: title.toLowerCase() },
    place: { kind: 'node', node: node.path },
    gauge: { value: error, unit: 'count', max: pixels, scale: 'log' },
    measure: message === 'shows' ? error : distance / wanted,
  }
}

/** Coverages are written with a few figures: what was rounded is not called wrong. */
const TOLERANCE = 1.02
