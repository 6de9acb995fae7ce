import { ACCEPT_FROM, type PairingCell, type PairingChoice, type TextureRole } from '@stern-gate/contract'
import { fileName } from '../read/deliveryPath'
import { confidenceOf, type CellEvidence } from './confidence'
import { OF_HOME, type Chosen, type Option } from './chooseTextures'
import type { ReadSlot } from './nameScore'
import { sayOpen, sayOption, saySettled } from './pairingReasons'
import { suggestSurface } from './suggestSurface'
import type { PairingRoom } from './pairingRoom'
import { seenAgainst, type ReadTexture } from './textureSets'

/** So many of the next best are told. */
const MOST_OTHERS = 3
/** A single map that is less likely does not stand in the way of a surface of values. */
const LIKELY = 0.5
/** What is less sure is no proposal: the cell stays open. */
const LEAST_FOUND = 0.1
/** Below this a texture is not worth naming as the next best. */
const LEAST_CHOICE = 0.05
/** Slots whose names fit a texture so nearly as well want it, too. */
const RIVAL_WITHIN = 0.06

/** Gives every cell its confidence, its reason and the next best. */
export function describeCells(room: PairingRoom, chosen: readonly Chosen[]): PairingCell[] {
  const wanted = wantedBy(chosen),
    lines = byLine(chosen)
  // What no class asks for is a cell only where something surely feeds it
  const cells = chosen
    .map((cell) => chosenCell(room, cell, lines, wanted))
    .filter((c, i) => c.state === 'found' || room.slots[chosen[i]!.line]!.slot.wants.includes(c.input))
  room.settled.forEach((own, line) => {
    for (const role of own.keys()) cells.push(settledCell(room, line, role))
  })
  const bySlot = new Map(room.slots.map((s) => [s.slot.id, [] as PairingCell[]]))
  for (const cell of cells) bySlot.get(cell.slot)!.push(cell)
  return room.slots.flatMap((slot, line) =>
    withSurface(slot, bySlot.get(slot.slot.id)!, room.settled[line]!.has('basecolor')),
  )
}

/** Cells by the place of their slot. */
type Lines = ReadonlyMap<number, readonly Chosen[]>

function byLine(chosen: readonly Chosen[]): Lines {
  const lines = new Map<number, Chosen[]>()
  for (const cell of chosen) {
    const own = lines.get(cell.line)
    if (own) own.push(cell)
    else lines.set(cell.line, [cell])
  }
  return lines
}

/**
 * A slot that nothing feeds may be a surface of values: then that stands in the place of its base colour, and what
 * else is open is not asked for. So it is where a surface was chosen; what was left open on purpose stays open.
 */
function withSurface(slot: ReadSlot, cells: PairingCell[], isSettled: boolean): PairingCell[] {
  const base = cells.find((c) => c.input === 'basecolor')
  if (base?.preset) return cells.filter((c) => c === base || c.state !== 'open')
  const isBare =
    !isSettled && base?.state === 'open' && cells.every((c) => c.state !== 'wired' && c.confidence < LIKELY)
  const surface = isBare ? suggestSurface(slot) : null
  if (!surface) return cells
  return [
    {
      ...base!,
      state: 'found',
      preset: surface.preset,
      name: surface.title,
      confidence: surface.confidence,
      reason: surface.reason,
    },
  ]
}

/** What a texture is worth to the slots that could have it, by its id. */
type Wanted = ReadonlyMap<string, readonly { line: number; role: TextureRole; score: number; has: boolean }[]>

function wantedBy(chosen: readonly Chosen[]): Wanted {
  const wanted = new Map<string, { line: number; role: TextureRole; score: number; has: boolean }[]>()
  for (const { line, role, options, option } of chosen)
    for (const o of options) {
      const { id } = o.texture.texture
      const list = wanted.get(id) ?? []
      list.push({ line, role, score: o.candidate.score, has: option === o })
      wanted.set(id, list)
    }
  return wanted
}

function chosenCell(room: PairingRoom, cell: Chosen, lines: Lines, wanted: Wanted): PairingCell {
  const { line, role, options } = cell
  const slot = room.slots[line]!,
    wired = wiredSets(room, line)
  const weigh = (o: Option): number => confidenceOf(evidenceOf(cell, o, lines, wanted, wired))
  const option = cell.option && weigh(cell.option) >= LEAST_FOUND ? cell.option : null
  const others: PairingChoice[] = options
    .filter((o) => o !== option && !sameBytes(o.texture, option?.texture))
    .slice(0, MOST_OTHERS + 2)
    .map((o) => ({ texture: o.texture.texture.id, confidence: weigh(o), reason: sayOption(slot, o, role) }))
    .filter((o) => o.confidence >= LEAST_CHOICE || !option)
    .slice(0, MOST_OTHERS)
  if (!option)
    return {
      ...emptyCell(slot.slot.id, role),
      reason: sayOpen(slot, role, others.length),
      others,
    }
  const { id } = option.texture.texture
  const mine = option.candidate.score
  const rivals = (wanted.get(id) ?? [])
    .filter(
      (w) => w.line !== line && w.role === role && w.score >= mine - RIVAL_WITHIN && w.score >= mine * 0.9,
    )
    .filter((w) => w.has || !hasBetter(lines, w))
    .map((w) => room.slots[w.line]!.slot.id)
  const { contradicts } = option.texture,
    confidence = weigh(option)
  return {
    ...emptyCell(slot.slot.id, role),
    state: 'found',
    texture: id,
    name: fileName(option.texture.texture.path),
    confidence,
    reason: sayOption(slot, option, role, togetherWith(cell, option, lines)),
    others,
    // What is surely shared is no conflict
    rivals: confidence >= ACCEPT_FROM ? [] : rivals,
    wrongInput: contradicts && contradicts !== role ? contradicts : null,
    ...readAs(option.texture, role),
  }
}

/** How a texture is read for a role, as its name says: the order of its channels, and whether it is gloss. */
function readAs({ named }: ReadTexture, role: TextureRole): Pick<PairingCell, 'layout' | 'inverted'> {
  const ofRole = named?.role === role ? named : null
  return {
    layout: role === 'orm' ? (ofRole?.layout ?? null) : null,
    inverted: role === 'roughness' && (ofRole?.inverted ?? false),
  }
}

const emptyCell = (slot: string, input: TextureRole): PairingCell => ({
  slot,
  input,
  state: 'open',
  texture: null,
  preset: null,
  name: '',
  confidence: 0,
  reason: '',
  others: [],
  rivals: [],
  wrongInput: null,
  layout: null,
  inverted: false,
})

function settledCell(room: PairingRoom, line: number, role: TextureRole): PairingCell {
  const slot = room.slots[line]!,
    { texture, preset, name, by } = room.settled[line]!.get(role)!
  return {
    ...emptyCell(slot.slot.id, role),
    state: name === '' ? 'open' : 'wired',
    texture: texture?.texture.id ?? null,
    preset,
    name,
    confidence: name === '' ? 0 : 1,
    reason: saySettled(name, by),
    wrongInput: texture ? seenAgainst(role, texture.texture.content) : null,
    ...(texture ? readAs(texture, role) : {}),
  }
}

const sameBytes = (a: ReadTexture, b: ReadTexture | undefined): boolean =>
  b !== undefined && a.texture.sha256 === b.texture.sha256

/** Whether a slot has something for the role that suits it better than what it wants as well. */
const hasBetter = (lines: Lines, want: { line: number; role: TextureRole; score: number }): boolean =>
  lines
    .get(want.line)!
    .some((c) => c.role === want.role && (c.option?.candidate.score ?? 0) > want.score + RIVAL_WITHIN)

/** Other cells of the slot with textures of the same set. */
const togetherWith = ({ line, role }: Chosen, { texture }: Option, lines: Lines): TextureRole[] =>
  lines
    .get(line)!
    .filter((c) => c.role !== role && c.option?.texture.set === texture.set)
    .map((c) => c.role)

/** The evidence behind each texture that was chosen: what the weights of confidence are fitted to. */
export function evidenceOfChosen(
  chosen: readonly Chosen[],
): { line: number; role: TextureRole; texture: string; evidence: CellEvidence }[] {
  const wanted = wantedBy(chosen),
    lines = byLine(chosen)
  return chosen.flatMap((cell) =>
    cell.option
      ? [
          {
            line: cell.line,
            role: cell.role,
            texture: cell.option.texture.texture.id,
            evidence: evidenceOf(cell, cell.option, lines, wanted),
          },
        ]
      : [],
  )
}

/** Sets of which a texture feeds the slot already. */
const wiredSets = (room: PairingRoom, line: number): ReadonlySet<number> =>
  new Set([...room.settled[line]!.values()].flatMap((s) => (s.texture ? [s.texture.set] : [])))

function evidenceOf(
  cell: Chosen,
  option: Option,
  lines: Lines,
  wanted: Wanted,
  wired: ReadonlySet<number> = new Set(),
): CellEvidence {
  const { line, role, options } = cell
  const others = lines.get(line)!.filter((c) => c.role !== role && c.option)
  const plain = (o: Option): number => o.worth - (o.texture.set === cell.home?.place ? OF_HOME : 0)
  const next = options.find((o) => o !== option && !sameBytes(o.texture, option.texture))
  const otherSet = options.find((o) => o.candidate !== option.candidate)?.candidate
  const uses = wanted.get(option.texture.texture.id) ?? []
  const sharers = uses.filter((w) => w.has && w.line !== line).length
  const rival = Math.max(0, ...uses.filter((w) => w.line !== line && w.role === role).map((w) => w.score))
  return {
    name: option.candidate.score,
    role: option.role,
    ahead: within(next ? plain(option) - plain(next) : 0.5) * 2,
    rival: within(rival - option.candidate.score + 0.1) * 2,
    nextSet: within(option.candidate.worth - (otherSet?.worth ?? 0)) * 2,
    sharers: Math.min(3, sharers) / 3,
    together:
      others.length === 0
        ? 0.5
        : others.filter((c) => c.option!.texture.set === option.texture.set).length / others.length,
    folder: option.candidate.folder,
    against: option.candidate.against,
    sibling: option.candidate.sibling,
    general: option.candidate.general,
    wired: wired.has(option.texture.set),
    unexplained: 1 - option.candidate.explained,
  }
}

const within = (value: number): number => Math.min(0.5, Math.max(0, value))
