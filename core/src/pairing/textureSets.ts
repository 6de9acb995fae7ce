import type { PairingTexture, Rulebook, TextureRole } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { compileRulebook } from '../rulebook/compiledRulebook'
import { tileOf, withoutTile } from '../scene/tileNames'
import { nearWords } from './nearWords'
import { packedLayout } from '../rulebook/layoutLetters'
import { roleOfTexture, type NamedRole } from './roleOfTexture'
import { isMark, splitGlued, splitName, splitSubject } from './splitName'

/** A texture with what its name and its pixels say. */
export interface ReadTexture {
  texture: PairingTexture
  place: number
  named: NamedRole | null
  /** Roles that it may carry, the likeliest first. */
  roles: { role: TextureRole; certainty: number }[]
  /** What its pixels say, where that is not what its name says. */
  contradicts: TextureRole | null
  /** Words of what it is a texture of. */
  subject: string[]
  /** Words of the folder that it lies in. */
  folder: string[]
  set: number
}

/** Textures that belong together by their names. */
export interface TextureSet {
  place: number
  words: readonly string[]
  folder: readonly string[]
  textures: ReadTexture[]
}

/** So sure pixels have to be to speak against a name. */
const AGAINST = 0.8
/** Behind so many names, and in so much of them one role, a word is taken for a word of that role. */
const LEARN_FROM = 3,
  LEARN_SHARE = 0.8

/**
 * Reads all textures of a problem and puts them into sets; `known` are words of slots and meshes, by which what is
 * written in one is told apart. A tile set is known by its first tile.
 */
export function readTextures(
  textures: readonly PairingTexture[],
  rulebook: Rulebook,
  known: ReadonlySet<string>,
): { read: ReadTexture[]; sets: TextureSet[] } {
  const firsts = firstTiles(textures)
  const roles = [...compileRulebook(rulebook).roles.keys()].filter((word) => word.length >= 3)
  const all = new Set([...known, ...roles])
  const wordsOf = (stem: string): string[] => splitName(stem).flatMap((word) => splitGlued(word, all))
  const named = firsts.map((place) => {
    const texture = textures[place]!
    return { texture, place, words: wordsOf(withoutTile(fileStem(texture.path))) }
  })
  // What all names begin with, a family or the job's name, is no place for a role
  const before = firstOfAll(named.map((n) => n.words))
  const bare = named.map((n) => ({ ...n, words: n.words.slice(before.length) }))
  const learnt = learnRoles(bare, rulebook)
  const read = bare.map(({ texture, place, words }): ReadTexture => {
    const { named: role, subject: left } = roleOfTexture(rulebook, words, learnt, texture.content)
    const subject = [...before, ...left]
    return {
      texture,
      place,
      named: role,
      ...rolesOf(role, texture),
      subject,
      folder: foldersOf(texture.path),
      set: -1,
    }
  })
  return { read, sets: setsOf(read) }
}

/** The word that all of three names and more begin with; empty where there is none. */
function firstOfAll(names: readonly (readonly string[])[]): string[] {
  const first = names[0]?.[0]
  return names.length >= 3 && first !== undefined && names.every((n) => n[0] === first && n.length > 1)
    ? [first]
    : []
}

/** Places of the textures that are paired: of numbered tiles only the first, whose name the others share. */
function firstTiles(textures: readonly PairingTexture[]): number[] {
  const seen = new Set<string>()
  return textures
    .map((_, i) => i)
    .sort((a, b) => (textures[a]!.path < textures[b]!.path ? -1 : 1))
    .filter((place) => {
      const { path } = textures[place]!,
        stem = fileStem(path)
      if (tileOf(stem) === null) return true
      const key = `${path.slice(0, path.lastIndexOf('/') + 1)}${withoutTile(stem)}`
      return !seen.has(key) && seen.add(key)
    })
}

/**
 * Last words of names that stand for a role in this delivery, as the pixels behind them agree. What they stand
 * behind must have other maps, too: a word that ends single pictures is what they show.
 */
function learnRoles(
  named: readonly { texture: PairingTexture; words: readonly string[] }[],
  rulebook: Rulebook,
): ReadonlyMap<string, TextureRole> {
  const subjects = new Map<string, Set<string>>(),
    seen = new Map<string, { subject: string; role: TextureRole | null }[]>()
  for (const { texture, words } of named) {
    const at = words.findLastIndex((w) => !/^\d+$/.test(w))
    if (at < 1) continue
    const { named: known, subject: left } = roleOfTexture(rulebook, words, NONE)
    const subject = (known ? left : words.filter((_, i) => i !== at)).join(' ')
    const last = known ? known.said : words[at]!
    subjects.set(subject, (subjects.get(subject) ?? new Set()).add(last))
    if (known) continue
    const first = texture.content[0],
      role = first && first.probability >= 0.6 ? first.role : null
    seen.set(words[at]!, [...(seen.get(words[at]!) ?? []), { subject, role }])
  }
  const learnt = new Map<string, TextureRole>()
  for (const [word, all] of seen) {
    const told = all.filter((s) => s.role !== null),
      inSets = all.filter((s) => subjects.get(s.subject)!.size > 1)
    if (told.length < LEARN_FROM || inSets.length * 2 < all.length) continue
    const role = told[0]!.role!
    if (told.filter((s) => s.role === role).length >= told.length * LEARN_SHARE) learnt.set(word, role)
  }
  return learnt
}

const NONE: ReadonlyMap<string, TextureRole> = new Map()

function rolesOf(
  named: NamedRole | null,
  { content }: PairingTexture,
): Pick<ReadTexture, 'roles' | 'contradicts'> {
  if (!named)
    return {
      roles: content.map(({ role, probability }) => ({ role, certainty: probability * 0.9 })),
      contradicts: null,
    }
  const seen = content.find((c) => c.role === named.role)?.probability ?? 0,
    against = seenAgainst(named.role, content)
  // What pixels and name agree on is sure; where pixels say something else, either may be right
  const certainty = against
    ? named.certainty * 0.55
    : named.certainty + (1 - named.certainty) * Math.min(1, seen * 1.1)
  const others = content
    .filter((c) => c.role !== named.role)
    .map(({ role, probability }) => ({
      role,
      certainty: probability * (against ? 0.5 : 0.25) * (1.05 - named.certainty),
    }))
  return {
    roles: [{ role: named.role, certainty }, ...others].sort((a, b) => b.certainty - a.certainty),
    contradicts: against,
  }
}

/** What pixels say surely that is not this role, nor one that looks like it; null: they do not speak against it. */
export function seenAgainst(role: TextureRole, content: PairingTexture['content']): TextureRole | null {
  const [first] = content
  return first && first.role !== role && first.probability >= AGAINST && !near(first.role, role)
    ? first.role
    : null
}

const GREY: readonly TextureRole[] = ['roughness', 'metallic', 'occlusion', 'opacity', 'height', 'tint']
const COLOURED: readonly TextureRole[] = ['basecolor', 'tint', 'orm']
const PACKED: readonly TextureRole[] = ['orm', 'occlusion', 'roughness', 'metallic']

/** Grey maps that pixels cannot tell apart for sure, colours, a packed map and its channels, and any light. */
const near = (a: TextureRole, b: TextureRole): boolean =>
  a !== 'normal' &&
  b !== 'normal' &&
  (a === 'emissive' ||
    b === 'emissive' ||
    [GREY, COLOURED, PACKED].some((alike) => alike.includes(a) && alike.includes(b)))

const KEPT_FOLDERS = 2

/** Words of the nearest two folders. */
export const foldersOf = (path: string): string[] =>
  path.split('/').slice(0, -1).slice(-KEPT_FOLDERS).flatMap(splitSubject)

/** Sets by the words of their subject and the folder; those that differ by a slip of the finger become one. */
function setsOf(read: ReadTexture[]): TextureSet[] {
  const sets = new Map<string, TextureSet>()
  for (const one of read) {
    const words = one.subject.filter((w) => packedLayout(w) === null)
    // Nothing but a number is no name: then the folder is what it is of
    const folder = one.texture.path.slice(0, one.texture.path.lastIndexOf('/') + 1)
    const named = words.some((w) => !isMark(w))
    const key = named ? words.join(' ') : `${folder} ${words.join(' ')}`
    const known = sets.get(key)
    if (known) known.textures.push(one)
    else
      sets.set(key, {
        place: 0,
        words: named ? words : [...one.folder, ...words],
        folder: one.folder,
        textures: [one],
      })
  }
  const joined = joinSlips([...sets.values()])
  joined.forEach((set, place) => {
    set.place = place
    for (const one of set.textures) one.set = place
  })
  return joined
}

/** Joins a set to a larger one whose words are nearly its own, where it brings roles that one has not. */
function joinSlips(sets: TextureSet[]): TextureSet[] {
  const largest = [...sets].sort(
    (a, b) => b.textures.length - a.textures.length || keyOf(a).localeCompare(keyOf(b)),
  )
  const byFirst = new Map<string, TextureSet[]>()
  const kept: TextureSet[] = []
  for (const set of largest) {
    const keys = set.words.map((w) => `${set.words.length} ${w[0]}`)
    const near = keys
      .flatMap((key) => byFirst.get(key) ?? [])
      .find((other) => sameButSlips(other.words, set.words) && bringsOther(other, set))
    if (near) near.textures.push(...set.textures)
    else {
      kept.push(set)
      const key = `${set.words.length} ${set.words[0]?.[0] ?? ''}`
      byFirst.set(key, [...(byFirst.get(key) ?? []), set])
    }
  }
  return kept
}

const keyOf = (set: TextureSet): string => set.words.join(' ')
const SLIP = 0.85

const sameButSlips = (a: readonly string[], b: readonly string[]): boolean =>
  a.length > 0 &&
  a.length === b.length &&
  a.every((word, i) => word === b[i] || (word.length >= 4 && nearWords(word, b[i]!) >= SLIP))

function bringsOther(set: TextureSet, other: TextureSet): boolean {
  const has = new Set(set.textures.map((t) => t.named?.role ?? t.roles[0]?.role))
  return other.textures.every((t) => !has.has(t.named?.role ?? t.roles[0]?.role))
}
