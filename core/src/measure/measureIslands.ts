import type { Document } from '@gltf-transform/core'
import type { IslandFacts, SlotFacts } from '@stern-gate/contract'
import { markIslandCells } from '../geometry/islandCells'
import { CELLS, packCells } from '../geometry/cellMask'
import { primitiveView } from '../scene/primitiveView'
import { slotNames } from '../scene/slotNames'

/**
 * Which cells of its sheet each slot uses, by the UV channels that its textures lie on. Slots without textures, or
 * without triangles that have UVs there, are left out.
 */
export function measureIslands(document: Document, slots: readonly SlotFacts[]): IslandFacts[] {
  const names = slotNames(document),
    masks = new Map<string, { slot: string; channel: number; mask: Uint8Array }>()
  const channelsOf = new Map(slots.map((s) => [s.name, [...new Set(s.textures.map((t) => t.channel))]]))
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives()) {
      const material = primitive.getMaterial(),
        slot = material && names.get(material)
      if (!slot) continue
      const { uvs, indices } = primitiveView(primitive)
      for (const channel of channelsOf.get(slot) ?? []) {
        const uv = uvs[channel]
        if (!uv) continue
        const key = `${channel} ${slot}`
        const own = masks.get(key) ?? { slot, channel, mask: new Uint8Array(CELLS * CELLS) }
        masks.set(key, own)
        // Nothing is left to be marked
        if (!own.mask.includes(0)) continue
        markIslandCells(own.mask, uv, indices)
      }
    }
  return [...masks.values()].map(({ slot, channel, mask }) => ({ slot, channel, cells: packCells(mask) }))
}
