/**
 * Where a text stops being JSON, by line and column, from the error that parsing it threw. The engine's own
 * words differ between versions, but for the position in them.
 */
export function jsonTrouble(text: string, error: unknown): string {
  const found = /position (\d+)/.exec(String((error as Error).message))
  const at = found ? Number(found[1]) : text.length
  if (at >= text.length) return 'it breaks off at its end'
  const before = text.slice(0, at).split('\n')
  return `line ${before.length}, column ${before.at(-1)!.length + 1} holds what cannot stand there`
}
