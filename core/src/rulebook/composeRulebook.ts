/**
 * A rulebook as a file may hold it: what it says lies over another one, key by key; lists and plain values are
 * taken whole. `extends` and `$schema` are the file's own and go no further.
 */
export function composeRulebook(base: unknown, own: Record<string, unknown>): Record<string, unknown> {
  const { extends: _, $schema: _schema, ...said } = own
  return merged(base, said) as Record<string, unknown>
}

function merged(below: unknown, above: unknown): unknown {
  if (!isRecord(below) || !isRecord(above)) return above
  const out: Record<string, unknown> = { ...below }
  for (const [key, value] of Object.entries(above)) out[key] = merged(below[key], value)
  return out
}

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
