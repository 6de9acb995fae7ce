import { textureRoles, type PairingTexture, type Rulebook, type TextureRole } from '@stern-gate/contract'
import { compileRulebook } from '../rulebook/compiledRulebook'
import { packedLayout } from '../rulebook/layoutLetters'
import { withinOneEdit } from './nearWords'
import { isMark } from './splitName'

/** What a texture's name says that it carries. */
export interface NamedRole {
  role: TextureRole
  /** How surely, 0 to 1, before its pixels are asked. */
  certainty: number
  /** The words that say so. */
  said: string
  /** Order of the channels of a packed map, where its name is made of them; null otherwise. */
  layout: string | null
  /** It says gloss or smoothness: roughness the other way round. */
  inverted: boolean
}

/** Words of other tongues, and words that only stand for a role behind a name. */
const MORE_WORDS: Partial<Record<TextureRole, readonly string[]>> = {
  basecolor: ['base', 'farbe', 'couleur', 'kolor', 'rgb', 'rgba', 'clr', 'diffus'],
  normal: ['normale', 'normalen', 'nmp', 'nrmgl', 'nrmdx'],
  roughness: ['rauheit', 'rugosite', 'rghn', 'smooth', 'glos', 'rou'],
  metallic: ['metal', 'metall', 'mtl', 'mtlc', 'metl', 'mental'],
  occlusion: ['cavity', 'shade', 'ambient', 'verdeckung'],
  emissive: ['emissiv', 'light', 'lights', 'selfillum', 'illum', 'ems'],
  opacity: ['opa', 'trans', 'cutout', 'deckkraft', 'opacite'],
  height: ['depth', 'relief', 'hoehe', 'hauteur', 'ht'],
  tint: ['maske', 'tinting', 'ids', 'id'],
}

/** Single letters; what the pixels say decides. */
const LETTERS: Readonly<Record<string, TextureRole>> = {
  a: 'basecolor',
  b: 'basecolor',
  c: 'basecolor',
  d: 'basecolor',
  n: 'normal',
  r: 'roughness',
  m: 'metallic',
  o: 'occlusion',
  e: 'emissive',
  h: 'height',
}

const OWN = 0.97,
  MORE = 0.75,
  TYPO = 0.88,
  GLUED = 0.86,
  LETTER = 0.62,
  LEARNT = 0.85
const FRONT = 0.93,
  MIDDLE = 0.85

/** Words that may as well be what the thing is or is made of, where they do not stand last. */
const SUBJECTS = new Set(
  'rough smooth gloss glossy color colour mask masks bump glow height alpha packed transparency'.split(' '),
)
const AS_SUBJECT = 0.6

const GLOSS = new Set(['gloss', 'glossiness', 'glossy', 'smoothness', 'smooth', 'glos'])

/** Words that a delivery uses for roles, learnt from its pixels. */
export type LearntRoles = ReadonlyMap<string, TextureRole>

interface RoleWords {
  own: ReadonlyMap<string, TextureRole>
  more: ReadonlyMap<string, TextureRole>
  /** Order of packed channels by a word that the rulebook has for it. */
  layouts: ReadonlyMap<string, string>
  /** Long enough to be found at the end of another word, or behind a slip of the finger. */
  long: readonly (readonly [string, TextureRole])[]
}

/** Role words of a rulebook, worked out once. */
function roleWordsOf(rulebook: Rulebook): RoleWords {
  const { more, roles, layouts } = compileRulebook(rulebook)
  const known = more.get('pairing role words') as RoleWords | undefined
  if (known) return known
  const own = new Map([...roles].map(([word, rank]) => [word, textureRoles[rank]!]))
  const others = new Map(
    textureRoles.flatMap((role) => (MORE_WORDS[role] ?? []).map((word) => [word, role] as const)),
  )
  const made = { own, more: others, layouts, long: [...own].filter(([word]) => word.length >= 5) }
  more.set('pairing role words', made)
  return made
}

/** How much is left of a word's certainty where the pixels do not say the same at all. */
const WITHOUT_PIXELS = 0.6

/**
 * Role that the words of a texture's name tell, and the words that are left for its subject. The last word counts
 * most, then the first, then those between; of several that could be one the pixels say which. Null where none is.
 */
export function roleOfTexture(
  rulebook: Rulebook,
  words: readonly string[],
  learnt: LearntRoles,
  content: PairingTexture['content'] = [],
): { named: NamedRole | null; subject: string[] } {
  const known = roleWordsOf(rulebook)
  let best: { named: NamedRole; subject: string[] } | null = null,
    most = 0
  for (const { at, place, plain } of placesOf(words)) {
    const found = roleAt(words, { at, place, plain }, known, learnt)
    if (!found) continue
    const seen = content.find((c) => c.role === found.named.role)?.probability ?? 0
    const worth =
      found.named.certainty * (content.length === 0 ? 1 : WITHOUT_PIXELS + (1 - WITHOUT_PIXELS) * seen)
    if (worth <= most) continue
    most = worth
    best = found
  }
  return best ?? { named: null, subject: [...words] }
}

/** The longest role word that ends, or in front begins, at one place. */
function roleAt(
  words: readonly string[],
  { at, place, plain }: RolePlace,
  known: RoleWords,
  learnt: LearntRoles,
): { named: NamedRole; subject: string[] } | null {
  for (const length of [3, 2, 1]) {
    const from = place === FRONT ? at : at - length + 1
    if (from < 0 || from + length > words.length) continue
    const said = words.slice(from, from + length).join('')
    const found = wordRole(said, known, learnt, { whole: length > 1 || plain, place })
    if (!found) continue
    const rest = found.rest === '' ? [] : [found.rest]
    return {
      named: { ...found.named, certainty: found.named.certainty * place },
      subject: [...words.slice(0, from), ...rest, ...words.slice(from + length)],
    }
  }
  return null
}

interface RolePlace {
  at: number
  place: number
  /** Only words that the rulebook has, as they are. */
  plain: boolean
}

/**
 * Where a role word is looked for, in this order: the last word before numbers and letters of variants, a letter
 * behind it, the first word, those between from behind.
 */
function placesOf(words: readonly string[]): RolePlace[] {
  const last = words.length - 1
  if (last < 0) return []
  let tail = last
  while (tail > 0 && isMark(words[tail]!)) tail--
  const letterBehind = words.slice(tail + 1).some((w) => /[a-z]/.test(w))
  return [
    { at: tail, place: 1, plain: letterBehind },
    ...(letterBehind ? [{ at: last, place: 1, plain: false }] : []),
    ...(tail > 0 ? [{ at: 0, place: FRONT, plain: false }] : []),
    ...Array.from({ length: Math.max(0, tail - 1) }, (_, i) => ({
      at: tail - 1 - i,
      place: MIDDLE,
      plain: false,
    })),
  ]
}

interface Asked {
  /** It must be a role word as it is: several words taken together, and those before a letter. */
  whole: boolean
  place: number
}

function wordRole(
  word: string,
  { own, more, layouts, long }: RoleWords,
  learnt: LearntRoles,
  { whole, place }: Asked,
): { named: NamedRole; rest: string } | null {
  const say = (role: TextureRole, certainty: number, said = word, rest = '') => ({
    named: { role, certainty, said, layout: null, inverted: role === 'roughness' && GLOSS.has(said) },
    rest,
  })
  const exact = own.get(word)
  if (exact) {
    const { named, rest } = say(exact, place < 1 && SUBJECTS.has(word) ? OWN * AS_SUBJECT : OWN)
    return { named: { ...named, layout: exact === 'orm' ? (layouts.get(word) ?? null) : null }, rest }
  }
  const packed = packedLayout(word)
  if (packed) return { named: { ...say('orm', MORE).named, layout: packed }, rest: '' }
  if (whole) return null
  const taught = learnt.get(word)
  if (taught && place === 1) return say(taught, LEARNT)
  const other = more.get(word)
  if (other && place === 1) return say(other, MORE)
  if (word.length === 1) return place === 1 && LETTERS[word] ? say(LETTERS[word], LETTER) : null
  if (place === MIDDLE) return null
  const slip = word.length >= 4 ? long.find(([known]) => withinOneEdit(word, known)) : undefined
  if (slip) return say(slip[1], TYPO, word)
  const end = long.find(([known]) => word.length - known.length >= 2 && word.endsWith(known))
  return end ? say(end[1], GLUED, end[0], word.slice(0, -end[0].length)) : null
}
