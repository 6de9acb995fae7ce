import type { IslandFacts, MeshFacts } from '@stern-gate/contract'
import { joinedCells } from '../geometry/cellMask'

/** Where a texture lies on the mesh. */
export interface TextureUse {
  slot: string
  field: string
  channel: number
}

type Islands = Pick<MeshFacts, 'slots' | 'islands'>

/**
 * The islands that use a texture. Null where nothing is known to use it, or where it does not lie plainly on a UV
 * channel.
 */
export function usingIslands(mesh: Islands | null, uses: readonly TextureUse[]): IslandFacts[] | null {
  if (!mesh || uses.length === 0) return null
  const using = new Set<IslandFacts>()
  for (const { slot, field, channel } of uses) {
    const lies = mesh.slots?.find((s) => s.name === slot)?.textures.find((t) => t.field === field)
    const own = mesh.islands.filter((i) => i.slot === slot && i.channel === channel)
    if (!lies || lies.placement !== null || own.length === 0) return null
    for (const one of own) using.add(one)
  }
  return [...using]
}

/** The cells of its sheet in which anything uses a texture, as bits, row by row from the top; null as above. */
export function islandsOfTexture(mesh: Islands | null, uses: readonly TextureUse[]): Uint32Array | null {
  const using = usingIslands(mesh, uses)
  return using && joinedCells(using.map((i) => i.cells))
}
