import { remembered } from '../caching/remembered'

/** Letters that have no decomposition into a base letter and a mark. */
const letters: Record<string, string> = {
  ß: 'ss',
  æ: 'ae',
  Æ: 'ae',
  ø: 'o',
  Ø: 'o',
  œ: 'oe',
  Œ: 'oe',
  ł: 'l',
  Ł: 'l',
  đ: 'd',
  Đ: 'd',
  þ: 'th',
  ı: 'i',
}

/** Words that say nothing about the thing itself. */
export const emptyWords: ReadonlySet<string> = new Set([
  'final',
  'new',
  'old',
  'copy',
  'untitled',
  'unnamed',
  'test',
  'temp',
  'tmp',
  'export',
  'exported',
  'fixed',
  'edit',
  'mesh',
  'model',
  'object',
  'obj',
  'default',
  'texture',
  'tex',
  'material',
  'mat',
  'image',
  'img',
])

/**
 * Splits any name into small ASCII words: separators, camel case, marks taken off letters. Figures stay with
 * their word.
 */
export const nameWords = (name: string): readonly string[] => wordsOfName(name).all

/** Words that carry meaning: no empty words, no version numbers, no bare figures. */
export const meaningfulWords = (name: string): readonly string[] => wordsOfName(name).meaningful

/** Whether a word, in small letters, says something. */
export const isMeaningful = (word: string): boolean => !emptyWords.has(word) && !isNumber(word)

const NUMBER = /^(v?\d+|r\d+)$/
const isNumber = (word: string): boolean => endsInFigure(word) && NUMBER.test(word)

function endsInFigure(word: string): boolean {
  const last = word.charCodeAt(word.length - 1)
  return last >= 0x30 && last <= 0x39
}

/** Small words of a name, and those that say something. */
export interface NameWords {
  all: readonly string[]
  meaningful: readonly string[]
}

/**
 * Both at once. Several rules ask for the same names one after the other; more than those are not kept, for a
 * long list is slower to ask than a name is to split.
 */
export const wordsOfName = remembered(256, (name): NameWords => {
  const all = smallWords(name) ?? anyWords(name)
  return { all, meaningful: all.every(isMeaningful) ? all : all.filter(isMeaningful) }
})

/**
 * Words of a name of small ASCII letters, which most names are; null where there is anything else than those,
 * figures and separators.
 */
function smallWords(name: string): string[] | null {
  const words: string[] = []
  let from = -1
  for (let i = 0; i <= name.length; i++) {
    const c = i < name.length ? name.charCodeAt(i) : 0x20
    if (c > 0x7f || (c >= 0x41 && c <= 0x5a)) return null
    const inWord = (c >= 0x61 && c <= 0x7a) || (c >= 0x30 && c <= 0x39)
    if (inWord && from < 0) from = i
    if (inWord || from < 0) continue
    words.push(name.slice(from, i))
    from = -1
  }
  return words
}

function anyWords(name: string): string[] {
  const ascii = isAscii(name)
    ? name
    : [...name]
        .map((c) => letters[c] ?? c)
        .join('')
        .normalize('NFKD')
        .replace(/[\u0300-\u036f]/g, '')
  const apart = ascii
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2')
    .toLowerCase()
  return apart.match(/[a-z0-9]+/g) ?? []
}

const isAscii = (name: string): boolean => /^[\0-\x7f]*$/.test(name)
