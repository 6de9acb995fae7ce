import type { PairingCell, TrayTexture } from '@stern-gate/contract'
import type { PairingRoom } from './pairingRoom'
import { fileName } from '../read/deliveryPath'
import { inputWords } from '../rulebook/inputWords'
import type { ReadTexture } from './textureSets'

/** Textures that no cell has, each with why. Further tiles of a set lie nowhere: they follow the first. */
export function trayOf(room: PairingRoom, cells: readonly PairingCell[]): TrayTexture[] {
  const used = new Set(cells.flatMap((c) => (c.texture === null ? [] : [c.texture])))
  const usedBytes = new Map<string, ReadTexture>()
  for (const one of room.read) if (used.has(one.texture.id)) usedBytes.set(one.texture.sha256, one)
  const usedSets = new Set(room.read.filter((r) => used.has(r.texture.id)).map((r) => r.set))
  return room.read
    .filter((r) => !used.has(r.texture.id))
    .map((one) => {
      const role = one.roles[0]?.role ?? null,
        same = usedBytes.get(one.texture.sha256)
      const note = same
        ? `the same as ${fileName(same.texture.path)}`
        : role !== null && usedSets.has(one.set)
          ? `another ${inputWords[role]} of its set: a variant?`
          : role !== null
            ? inputWords[role]
            : 'nothing says what it carries'
      return { texture: one.texture.id, role, note }
    })
}
