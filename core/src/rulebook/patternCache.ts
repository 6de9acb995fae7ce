import type { Outcome } from '@stern-gate/contract'
import { compilePattern, type Pattern } from './pattern'

const known = new Map<string, Outcome<Pattern>>()
const MOST_KNOWN = 500

/** compilePattern, remembered: judging asks for the same few patterns thousands of times. */
export function patternOf(source: string): Outcome<Pattern> {
  const found = known.get(source)
  if (found) return found
  if (known.size >= MOST_KNOWN) known.clear()
  const compiled = compilePattern(source)
  known.set(source, compiled)
  return compiled
}
