import type { MeshFacts } from '@stern-gate/contract'
import { CELL_WORDS, unpackCells } from '../geometry/cellMask'

/** Where a texture lies on the mesh. */
export interface TextureUse {
  slot: string
  field: string
  channel: number
}

/**
 * The cells of its sheet in which anything uses a texture, as bits, row by row from the top. Null where nothing is
 * known to use it, or where it does not lie plainly on a UV channel.
 */
export function islandsOfTexture(
  mesh: Pick<MeshFacts, 'slots' | 'islands'> | null,
  uses: readonly TextureUse[],
): Uint32Array | null {
  if (!mesh || uses.length === 0) return null
  const bits = new Uint32Array(CELL_WORDS)
  for (const { slot, field, channel } of uses) {
    const lies = mesh.slots?.find((s) => s.name === slot)?.textures.find((t) => t.field === field)
    const own = mesh.islands.filter((i) => i.slot === slot && i.channel === channel)
    if (!lies || lies.placement !== null || own.length === 0) return null
    for (const { cells } of own) unpackCells(cells).forEach((word, at) => (bits[at]! |= word))
  }
  return bits
}
