const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

/**
 * What I changed of a common base, laid over what somebody else made of it meanwhile: where only one of us changed
 * something it is kept, where both did mine stands.
 */
export function rebased(base: unknown, mine: unknown, theirs: unknown): unknown {
  if (same(mine, base)) return theirs
  if (!isRecord(base) || !isRecord(mine) || !isRecord(theirs)) return mine
  const out: Record<string, unknown> = {}
  for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
    const value = rebased(base[key], mine[key], theirs[key])
    if (value !== undefined) out[key] = value
  }
  return out
}
