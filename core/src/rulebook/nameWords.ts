/** Letters that have no decomposition into a base letter and a mark. */
const letters: Record<string, string> = { ß: 'ss', æ: 'ae', Æ: 'ae', ø: 'o', Ø: 'o', œ: 'oe', Œ: 'oe', ł: 'l', Ł: 'l', đ: 'd', Đ: 'd', þ: 'th', ı: 'i' }

/** Words that say nothing about the thing itself. */
const emptyWords = new Set(['final', 'new', 'old', 'copy', 'untitled', 'unnamed', 'test', 'temp', 'tmp', 'export', 'exported', 'fixed', 'edit', 'mesh', 'model', 'object', 'obj', 'default', 'texture', 'tex', 'material', 'mat', 'image', 'img'])

/** Splits any name into small ASCII words: separators, camel case, marks taken off letters. Figures stay with their word. */
export function nameWords(name: string): readonly string[] {
  return wordsOf(name).all
}

/** Words that carry meaning: no empty words, no version numbers, no bare figures. */
export function meaningfulWords(name: string): readonly string[] {
  const words = wordsOf(name)
  return (words.meaningful ??= words.all.filter((w) => !emptyWords.has(w) && !NUMBER.test(w)))
}

const NUMBER = /^(v?\d+|r\d+)$/

interface Words { all: readonly string[]; meaningful: readonly string[] | null }

/** Half a dozen rules split the same names one after the other. */
const known = new Map<string, Words>()
const MOST_KNOWN = 4096

function wordsOf(name: string): Words {
  const before = known.get(name)
  if (before) return before
  if (known.size >= MOST_KNOWN) known.clear()
  const words = { all: splitWords(name), meaningful: null }
  known.set(name, words)
  return words
}

function splitWords(name: string): string[] {
  const ascii = isAscii(name) ? name : [...name].map((c) => letters[c] ?? c).join('').normalize('NFKD').replace(/[\u0300-\u036f]/g, '')
  // Most names are small ASCII letters already, and a library has thousands
  const apart = /[A-Z]/.test(ascii) ? ascii.replace(/([a-z0-9])([A-Z])/g, '$1 $2').replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2').toLowerCase() : ascii
  return apart.match(/[a-z0-9]+/g) ?? []
}

const isAscii = (name: string): boolean => /^[\0-\x7f]*$/.test(name)
