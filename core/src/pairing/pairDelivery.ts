import {
  textureRoles,
  type Pairing,
  type PairingDecision,
  type PairingProblem,
  type Rulebook,
} from '@stern-gate/contract'
import { chooseHomes, chooseTextures, type Chosen } from './chooseTextures'
import { describeCells } from './describeCells'
import { openRoom, type PairingRoom } from './pairingRoom'
import { trayOf } from './trayOf'

/**
 * Pairs a whole delivery at once: sets of textures with slots, then for each role textures with cells, both as
 * assignments of the least cost in which a texture may serve several slots for a price. Cells that are wired or
 * decided stay as they are. The order of slots and textures does not matter.
 */
export function pairDelivery(
  problem: PairingProblem,
  rulebook: Rulebook,
  decided: readonly PairingDecision[] = [],
): Pairing {
  const { room, chosen } = choosePairs(problem, rulebook, decided)
  const cells = describeCells(room, chosen)
  const place = new Map(problem.slots.map((s, i) => [s.id, i]))
  return {
    cells: cells.sort(
      (a, b) =>
        place.get(a.slot)! - place.get(b.slot)! ||
        textureRoles.indexOf(a.input) - textureRoles.indexOf(b.input),
    ),
    tray: trayOf(room, cells),
  }
}

/** The assignment itself, before anything is said of it. */
export function choosePairs(
  problem: PairingProblem,
  rulebook: Rulebook,
  decided: readonly PairingDecision[] = [],
): { room: PairingRoom; chosen: Chosen[] } {
  const room = openRoom(inOrder(problem), rulebook, decided)
  return { room, chosen: chooseTextures(room, chooseHomes(room)) }
}

/** By id, so that nothing depends on the order in which things came. */
const inOrder = (problem: PairingProblem): PairingProblem => ({
  slots: [...problem.slots].sort((a, b) => (a.id < b.id ? -1 : 1)),
  textures: [...problem.textures].sort((a, b) => (a.id < b.id ? -1 : 1)),
})
