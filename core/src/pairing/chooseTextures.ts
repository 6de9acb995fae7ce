import { textureRoles, type TextureRole } from '@stern-gate/contract'
import { assignCheapest, type Offer } from './assignCheapest'
import { LEAST_SCORE, type Candidate, type PairingRoom } from './pairingRoom'
import type { ReadTexture, TextureSet } from './textureSets'

/** What it costs when a texture serves a further slot; in scores. */
const PRICE_OF_SHARING = 0.12
/** A texture of the set that the slot has as a whole is worth this much more than one of another. */
export const OF_HOME = 0.3

/** Each slot's own set, by one assignment over all; null: none. */
export function chooseHomes({ slots, sets, candidates }: PairingRoom): (TextureSet | null)[] {
  const offers: (Offer & { set: TextureSet })[] = []
  candidates.forEach((own, line) => {
    for (const { set, worth } of own) offers.push({ line, column: set.place, cost: -worth, set })
  })
  const taken = assignCheapest(slots.length, sets.length, offers, {
    open: -LEAST_SCORE,
    price: PRICE_OF_SHARING,
  })
  return slots.map((_, line) => (taken[line]! < 0 ? null : offers[taken[line]!]!.set))
}

/** What was chosen for one cell, among what. */
export interface Chosen {
  line: number
  role: TextureRole
  /** Null: it stays open. */
  option: Option | null
  /** All that came near, the best first. */
  options: Option[]
  home: TextureSet | null
}

/** A texture for a cell, with what it is worth there. */
export interface Option {
  texture: ReadTexture
  candidate: Candidate
  role: number
  worth: number
}

/** Below this a texture is not taken for what carries the role. */
const LEAST_ROLE = 0.2

/** Textures of a role that come near a slot, the best first. */
export function optionsOf(
  room: PairingRoom,
  line: number,
  role: TextureRole,
  home: TextureSet | null,
): Option[] {
  return room.candidates[line]!.flatMap((candidate) =>
    candidate.set.textures.flatMap((texture): Option[] => {
      const certainty = texture.roles.find((r) => r.role === role)?.certainty ?? 0
      if (certainty < LEAST_ROLE) return []
      const first = texture.roles[0]!.role === role ? 1 : 0.6
      const worth = candidate.worth * first * (0.4 + 0.6 * certainty) + (candidate.set === home ? OF_HOME : 0)
      return [{ texture, candidate, role: certainty, worth }]
    }),
  ).sort((a, b) => b.worth - a.worth || (a.texture.texture.id < b.texture.texture.id ? -1 : 1))
}

/** For each role an assignment of textures to the cells that are not settled. */
export function chooseTextures(room: PairingRoom, homes: readonly (TextureSet | null)[]): Chosen[] {
  const chosen: Chosen[] = []
  const spent = new Set<string>()
  for (const role of textureRoles) {
    const offers: (Offer & { option: Option })[] = [],
      asked: { line: number; options: Option[] }[] = []
    room.slots.forEach((slot, line) => {
      if (room.settled[line]!.has(role)) return
      const home = homes[line] ?? null
      const options = optionsOf(room, line, role, home).filter(
        (o) => !spent.has(`${line} ${o.texture.texture.id}`),
      )
      const wanted = slot.slot.wants.includes(role)
      // What no class asks for is only taken from the slot's own set, or where all names agree
      const fits = options.filter(
        (o) =>
          wanted || o.candidate.score >= AGREED || (o.candidate.set === home && o.candidate.score >= FITS),
      )
      asked.push({ line, options })
      for (const option of fits)
        offers.push({ line, column: option.texture.place, cost: -option.worth, option })
    })
    const taken = assignCheapest(room.slots.length, room.textures.length, offers, {
      open: -LEAST_SCORE,
      price: PRICE_OF_SHARING,
    })
    for (const { line, options } of asked) {
      const option = taken[line]! < 0 ? null : offers[taken[line]!]!.option
      if (!option && !room.slots[line]!.slot.wants.includes(role)) continue
      if (option) spent.add(`${line} ${option.texture.texture.id}`)
      chosen.push({ line, role, option, options, home: homes[line] ?? null })
    }
  }
  const fed = new Set(chosen.flatMap((c) => (c.option ? [`${c.line} ${c.role}`] : [])))
  return chosen.filter((c) => !isAnswered(c, fed))
}

const AGREED = 0.85,
  FITS = 0.4

/** A packed map stands for its channels, and they for it: what one of them answers is not asked as the other. */
function isAnswered({ line, role, option }: Chosen, fed: ReadonlySet<string>): boolean {
  if (option) return false
  const has = (other: TextureRole): boolean => fed.has(`${line} ${other}`)
  return role === 'orm'
    ? has('roughness') || has('metallic')
    : (role === 'roughness' || role === 'metallic' || role === 'occlusion') && has('orm')
}
