import type { PairingDecision, PairingProblem, Rulebook, TextureRole } from '@stern-gate/contract'
import { fileName } from '../read/deliveryPath'
import { candidateSets } from './candidateSets'
import { readSlots, scoreNames, type NameScore, type ReadSlot } from './nameScore'
import { presetOf } from '../surfaces/presets'
import { likenessAmong } from './nearWords'
import { rarityAmong } from './rarity'
import { readTextures, type ReadTexture, type TextureSet } from './textureSets'

/** Names below this score are no pair. */
export const LEAST_SCORE = 0.3
/** A set that has what the slot is to have is worth this much more. */
const OF_COVERAGE = 0.12
const OF_FOLDER = 0.1
/** A set of which the file wires a texture already is the slot's, near enough. */
const OF_WIRED = 0.6

/** A set as it stands to one slot. */
export interface Candidate extends NameScore {
  set: TextureSet
  worth: number
}

/** What is worked on while a delivery is paired. */
export interface PairingRoom {
  slots: readonly ReadSlot[]
  read: readonly ReadTexture[]
  sets: readonly TextureSet[]
  textures: PairingProblem['textures']
  /** By the slot's place: sets that come near, the best first. */
  candidates: readonly (readonly Candidate[])[]
  /** By the slot's place: cells that are settled, with the texture; null: it was decided that nothing goes there. */
  settled: readonly ReadonlyMap<TextureRole, Settled>[]
}

/** What feeds a cell that is not asked about. */
export interface Settled {
  /** Null: it stays open, or the texture stands inside the mesh. */
  texture: ReadTexture | null
  /** A surface of values in its place. */
  preset: string | null
  name: string
  by: 'file' | 'person'
}

/** Reads what is to be paired: names, sets, and which sets come near which slot. */
export function openRoom(
  { slots: given, textures }: PairingProblem,
  rulebook: Rulebook,
  decided: readonly PairingDecision[],
): PairingRoom {
  const slots = readSlots(given)
  const { read, sets } = readTextures(
    textures,
    rulebook,
    new Set(slots.flatMap((s) => [...s.own, ...s.asset]).filter((w) => w.length >= 3)),
  )
  const byId = new Map(read.map((r) => [r.texture.id, r]))
  const assets = new Map(slots.map((s) => [s.slot.owner ?? s.slot.path, s]))
  const rarity = rarityAmong([
    sets.map((s) => s.words),
    [...assets.values()].map((s) => s.asset),
    slots.map((s) => s.own),
  ])
  const like = likenessAmong([
    ...slots.flatMap((s) => [...s.own, ...s.asset, ...s.nodes, ...s.folder]),
    ...sets.flatMap((s) => [...s.words, ...s.folder]),
  ])
  const settled = slots.map(({ slot }) => settledCells(slot, byId, decided))
  const near = candidateSets(slots, sets, { rarity, like })
  const candidates = slots.map((slot, i) => {
    const wired = new Set([...settled[i]!.values()].map((s) => s.texture?.set ?? -1))
    const all = new Set([...near[i]!, ...[...wired].filter((s) => s >= 0)])
    return [...all]
      .map((place) =>
        candidateOf(slot, sets[place]!, scoreNames(slot, sets[place]!, { rarity, like }), wired),
      )
      .filter((c) => c.score >= LEAST_SCORE || wired.has(c.set.place))
      .sort((a, b) => b.worth - a.worth || a.set.place - b.set.place)
  })
  return { slots, read, sets, textures, candidates, settled }
}

function settledCells(
  slot: PairingProblem['slots'][number],
  byId: ReadonlyMap<string, ReadTexture>,
  decided: readonly PairingDecision[],
): Map<TextureRole, Settled> {
  const settled = new Map<TextureRole, Settled>()
  for (const { input, texture, id } of slot.wired)
    settled.set(input, {
      texture: (id !== null && byId.get(id)) || null,
      preset: null,
      name: texture,
      by: 'file',
    })
  for (const { slot: id, input, texture, preset = null } of decided) {
    if (id !== slot.id) continue
    const found = texture === null ? null : (byId.get(texture) ?? null)
    const title = preset === null ? '' : (presetOf(preset)?.title ?? '')
    settled.set(input, {
      texture: found,
      preset: title === '' ? null : preset,
      name: found ? fileName(found.texture.path) : title,
      by: 'person',
    })
  }
  return settled
}

function candidateOf(
  slot: ReadSlot,
  set: TextureSet,
  score: NameScore,
  wired: ReadonlySet<number>,
): Candidate {
  const has = new Set(set.textures.flatMap((t) => (t.roles[0] ? [t.roles[0].role] : [])))
  const { wants } = slot.slot
  const coverage = wants.length === 0 ? 0 : wants.filter((w) => has.has(w)).length / wants.length
  const worth =
    score.score + OF_COVERAGE * coverage + OF_FOLDER * score.folder + (wired.has(set.place) ? OF_WIRED : 0)
  return { ...score, set, worth }
}
