import type { PairingSlot } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { baseName } from '../scene/meshParts'
import type { WordLikeness } from './nearWords'
import type { Rarity } from './rarity'
import { isMark, splitSubject } from './splitName'
import { foldersOf, type TextureSet } from './textureSets'

/** A slot with its words. */
export interface ReadSlot {
  slot: PairingSlot
  place: number
  own: readonly string[]
  asset: readonly string[]
  nodes: readonly string[]
  folder: readonly string[]
  /** Slots of the same asset, this one among them. */
  siblings: number
  /** Words that only other slots of the asset have. */
  ofSiblings: readonly string[]
}

/** How well the names of a slot and a set go together; shares are 0 to 1, weighted by how much a word tells. */
export interface NameScore {
  /** All in all, 0 to 1. */
  score: number
  /** Share of the set's words that the slot, its mesh or its nodes have. */
  explained: number
  /** Share of the slot's own words that the set has; null: the slot has none. */
  ofSlot: number | null
  /** Share of the mesh's words that the set has. */
  ofAsset: number
  /** Its number or letter is another: crate_a and crate_b. */
  against: boolean
  /** It names another slot of the same mesh. */
  sibling: boolean
  /** It is called by the mesh alone, and the mesh has several slots. */
  general: boolean
  /** Share of the folder's words that the mesh and its folder have. */
  folder: number
  /** Words that both have. */
  shared: string[]
}

/** Reads the names of all slots. */
export function readSlots(slots: readonly PairingSlot[]): ReadSlot[] {
  const families = new Map<string, PairingSlot[]>()
  const keyOf = (s: PairingSlot): string => s.owner ?? s.path
  for (const slot of slots) families.set(keyOf(slot), [...(families.get(keyOf(slot)) ?? []), slot])
  return slots.map((slot, place) => {
    const own = splitSubject(slot.slot),
      asset = [...new Set([...splitSubject(slot.asset), ...splitSubject(baseName(fileStem(slot.path)))])]
    const family = families.get(keyOf(slot))!
    const others = family.filter((s) => s !== slot).flatMap((s) => splitSubject(s.slot))
    return {
      slot,
      place,
      own,
      asset,
      nodes: [...new Set(slot.nodes.flatMap((n) => splitSubject(baseName(n))))],
      folder: foldersOf(slot.path),
      siblings: family.length,
      ofSiblings: [...new Set(others)].filter((w) => !isMark(w) && !own.includes(w) && !asset.includes(w)),
    }
  })
}

/** What words tell in one delivery, and which of them mean the same. */
export interface WordWeights {
  rarity: Rarity
  like: WordLikeness
}

/** How much a word counts by where it was found. */
const AT = { own: 1, asset: 0.92, nodes: 0.85 }
const SHARED_FROM = 0.5
/** From this on a word tells enough for a set to be known by it. */
const TELLING = 0.3

/** Scores the names of one slot against those of one set. */
export function scoreNames(slot: ReadSlot, set: TextureSet, { rarity, like }: WordWeights): NameScore {
  const explained = shareOf(set.words, (word) => wordIn(word, slot, like), rarity) ?? 0
  const inSet = (word: string): number => bestOf(word, set.words, like)
  const ofSlot = shareOf(slot.own, inSet, rarity),
    ofAsset = shareOf(slot.asset, inSet, rarity) ?? 0
  const folder =
    shareOf(set.folder, (word) => bestOf(word, [...slot.asset, ...slot.own, ...slot.folder], like), rarity) ??
    0
  const cover =
    ofSlot === null
      ? ofAsset
      : slot.siblings === 1
        ? Math.max(ofSlot, ofAsset, (ofSlot + ofAsset) / 1.7)
        : 0.65 * ofSlot + 0.35 * ofAsset
  const against = speaksAgainst(slot, set, like),
    sibling = namesSibling(slot, set, like)
  // Words that every mesh has, as a family, explain nothing
  const telling = Math.min(1, Math.max(0, ...set.words.map(rarity)) / TELLING)
  const score =
    0.5 * explained * telling + 0.5 * Math.min(1, cover) - (against ? 0.35 : 0) - (sibling ? 0.2 : 0)
  const shared = set.words.filter((word) => wordIn(word, slot, like) >= SHARED_FROM)
  return {
    // Numbers and letters alone are no names: everybody counts from one
    score: shared.every(isMark) ? 0 : Math.max(0, score),
    explained,
    ofSlot,
    ofAsset,
    against,
    sibling,
    general: isGeneral(slot, set, like),
    folder,
    shared,
  }
}

const wordIn = (word: string, slot: ReadSlot, like: WordLikeness): number =>
  Math.max(
    AT.own * bestOf(word, slot.own, like),
    AT.asset * bestOf(word, slot.asset, like),
    AT.nodes * bestOf(word, slot.nodes, like),
  )

function bestOf(word: string, words: readonly string[], like: WordLikeness): number {
  let best = 0
  for (const other of words) {
    const near = like(word, other)
    if (near > best) best = near
  }
  return best
}

/**
 * Share of words that are found, each as much as it tells; where none tells anything, all alike. Null: there are
 * none.
 */
function shareOf(words: readonly string[], found: (word: string) => number, rarity: Rarity): number | null {
  if (words.length === 0) return null
  let sum = 0,
    all = 0,
    plain = 0
  for (const word of words) {
    const weight = rarity(word),
      near = found(word)
    all += weight
    sum += weight * near
    plain += near
  }
  return all === 0 ? plain / words.length : sum / all
}

/** Whether a word of the set is that of another slot of the mesh, and none of this one. */
const namesSibling = (slot: ReadSlot, set: TextureSet, like: WordLikeness): boolean =>
  set.words.some(
    (word) => bestOf(word, slot.ofSiblings, like) >= SURELY && bestOf(word, slot.own, like) < SHARED_FROM,
  )

const SURELY = 0.85

/** Whether none of the words that tell a slot from the others of its mesh stands in the set. */
const isGeneral = (slot: ReadSlot, set: TextureSet, like: WordLikeness): boolean => {
  if (slot.siblings === 1) return false
  const telling = slot.own.filter((w) => !slot.asset.includes(w) || isMark(w))
  return telling.every((w) => bestOf(w, set.words, like) < SHARED_FROM)
}

/**
 * Whether slot and set share a word, and numbers or letters tell them apart: what the set has of either, the slot
 * would have to have, too; where the slot has none, the mesh's first.
 */
function speaksAgainst(slot: ReadSlot, set: TextureSet, like: WordLikeness): boolean {
  const shares = set.words.some(
    (w) => !isMark(w) && Math.max(bestOf(w, slot.own, like), bestOf(w, slot.asset, like)) >= SHARED_FROM,
  )
  if (!shares) return false
  return [isNumber, isLetter].some((kind) => {
    const own = slot.own.filter(kind),
      asset = slot.asset.filter(kind),
      given = set.words.filter(kind)
    if (given.length === 0) return false
    if (own.length === 0) return asset.length > 0 && asset[0] !== given[0]
    const both = own.length >= given.length ? own : [...asset, ...own]
    const left = [...both]
    return !given.every((mark) => {
      const at = left.indexOf(mark)
      if (at >= 0) left.splice(at, 1)
      return at >= 0
    })
  })
}

const isNumber = (word: string): boolean => /^\d+$/.test(word)
const isLetter = (word: string): boolean => /^[a-z]$/.test(word)
