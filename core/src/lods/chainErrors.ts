import type { ChainFacts } from '@stern-gate/contract'
import type { LevelError } from './switching'

/**
 * Errors by which levels are switched: what 99 % of the surface keep – a knob that a level leaves out is told with the
 * largest deviation and seen in the outline, and would put every switch beyond sight –, or the furthest place where
 * that is wanted.
 */
export const chainErrors = ({ errors }: Pick<ChainFacts, 'errors'>, furthest = false): LevelError[] =>
  errors.map(({ level, most, within99 }) => ({ level, error: furthest ? most : within99 }))
