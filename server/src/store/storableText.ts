import { validText } from '@stern-gate/contract'

/** JSON of a value without anything that PostgreSQL refuses: NUL, and halves of characters. */
export function storableJson(value: unknown): string {
  const text = JSON.stringify(value)
  // JSON.stringify writes these, and only these, as escapes
  if (!/\\u(0000|d[89a-f])/.test(text)) return text
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'string'
      ? validText(part)
      : part !== null && typeof part === 'object' && !Array.isArray(part)
        ? Object.fromEntries(Object.entries(part).map(([k, v]) => [validText(k), v]))
        : part,
  )
}
