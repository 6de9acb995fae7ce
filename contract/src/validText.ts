const REPLACEMENT = '\uFFFD'

/**
 * The text without what no store, address or page can carry: NUL and unpaired halves of surrogate pairs become
 * U+FFFD. Every other character stays.
 */
export const validText = (text: string): string =>
  isValidText(text)
    ? text
    : text.replace(/\0|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g, REPLACEMENT)

/** Whether a text holds neither NUL nor an unpaired half of a surrogate pair. */
export const isValidText = (text: string): boolean =>
  !/\0|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/.test(text)

/** Where in a JSON value a text is not valid: its keys and indices joined by dots; null when all are. */
export function findInvalidText(value: unknown, path = ''): string | null {
  if (typeof value === 'string') return isValidText(value) ? null : path || 'the text'
  if (value === null || typeof value !== 'object') return null
  for (const [key, part] of Object.entries(value)) {
    const at = path === '' ? validText(key) : `${path}.${validText(key)}`
    if (!isValidText(key)) return at
    const found = findInvalidText(part, at)
    if (found !== null) return found
  }
  return null
}

const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' })

/**
 * The beginning of a text, at most `most` UTF-16 units long, cut between what a reader takes for characters: no
 * emoji, accent or flag is cut apart. `end` is put behind what was cut.
 */
export function cutText(text: string, most: number, end = ''): string {
  if (text.length <= most) return text
  let length = 0
  for (const { segment } of segmenter.segment(text.slice(0, most + LONGEST_GRAPHEME))) {
    if (length + segment.length > most - end.length) break
    length += segment.length
  }
  return text.slice(0, length) + end
}

/** Longer ones are no letters or signs of any script: they may be cut. */
const LONGEST_GRAPHEME = 64
