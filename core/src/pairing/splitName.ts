import { emptyWords, nameWords } from '../rulebook/nameWords'
import { storageWords } from '../rulebook/textureRole'

const wordsOf = (text: string): ReadonlySet<string> => new Set(text.trim().split(/\s+/))

/** Words of a file that say how it was made or stored, and nothing of what it is. */
const STORED: ReadonlySet<string> = new Set([
  ...storageWords,
  ...emptyWords,
  ...['maps', 'textures', 'file', 'exr', 'tif'],
])

/** Words that a slot, a mesh or a folder has whatever it holds. */
const GENERIC = wordsOf(`
  material materials mat mtl slot shader surface phong lambert default none mesh model models object obj node geo
  geometry group root scene source src assets asset art props delivery incoming low high lod shape
`)

/** Sides of pictures, bits and versions: 2k, 1024, 2048x2048, 16bit, v03. */
const MADE = /^(\d+k|256|512|1024|2048|4096|8192|\d+x\d+|\d+bits?|v\d+|rev\d+)$/

/**
 * Small words of a name with figures apart, without leading noughts: `LadderRust02` is ladder, rust, 2. What
 * only says how a file was made is left out.
 */
export const splitName = (name: string): string[] =>
  nameWords(name).flatMap((word) => {
    if (MADE.test(word) || STORED.has(word)) return []
    const ends = /^([a-z]+?)0*(\d{1,3})$/.exec(word)
    if (ends) return STORED.has(ends[1]!) ? [ends[2]!] : [ends[1]!, ends[2]!]
    return [/^\d+$/.test(word) ? String(Number(word)) : word]
  })

/**
 * The same of a slot, a mesh or a folder, without the words that any of them has. The number behind such a word
 * stays: it may be all that there is.
 */
export const splitSubject = (name: string): string[] => splitName(name).filter((w) => !GENERIC.has(w))

/** Whether a word only counts or tells variants apart. */
export const isMark = (word: string): boolean => /^(\d+|[a-z])$/.test(word)

const GLUED_FROM = 7
/** So much of a word has to be made of known ones. */
const MOSTLY = 0.65

/**
 * Words that are written in one, by words that are known: CRATEBPINE with crate and pine is crate, b, pine. What
 * is left between stays a word; a word that is known itself, or of which too little is, stays whole.
 */
export function splitGlued(word: string, known: ReadonlySet<string>): string[] {
  if (word.length < GLUED_FROM || known.has(word)) return [word]
  // By end: the most letters that are covered up to there, with the word that ends there
  const covered = new Float64Array(word.length + 1),
    begins = new Int32Array(word.length + 1).fill(-1)
  for (let end = 1; end <= word.length; end++) {
    covered[end] = covered[end - 1]!
    for (let from = 0; from <= end - 3; from++) {
      const piece = end - from
      // Two short words are less likely than a long one
      const gain = covered[from]! + piece - 0.5
      if (gain > covered[end]! && known.has(word.slice(from, end))) {
        covered[end] = gain
        begins[end] = from
      }
    }
  }
  if (covered[word.length]! < MOSTLY * word.length) return [word]
  const words: string[] = []
  let pieces = 0
  let rest = word.length
  for (let end = word.length; end > 0;) {
    if (begins[end]! < 0) {
      end--
      continue
    }
    if (rest > end) words.unshift(word.slice(end, rest))
    words.unshift(word.slice(begins[end], end))
    pieces++
    end = begins[end]!
    rest = end
  }
  if (rest > 0) words.unshift(word.slice(0, rest))
  // One known word with an s behind it is its plural
  return pieces > 1 ? words : [word]
}
