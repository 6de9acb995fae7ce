import type { PairingCell, PairingTexture, RemedyOptions } from '@stern-gate/contract'
import { fileName } from '../read/deliveryPath'
import { feedOptions } from './feedOptions'
import { slotId, textureId, type PairedAsset } from './pairingProblem'

/** What makes accepted cells of one mesh true: textures that join it, and a step for each slot. */
export interface Feeding {
  asset: PairedAsset
  join: PairingTexture[]
  steps: { remedy: 'slots/feed'; options: RemedyOptions }[]
}

export type AcceptedCell = Pick<PairingCell, 'slot' | 'input' | 'texture' | 'layout' | 'inverted'>

/**
 * Plans what accepted cells come to. A texture that the mesh holds is named as it is there; one that joins it by
 * its file's name, or by its path where the name is taken.
 */
export function planFeeding(
  assets: readonly PairedAsset[],
  textures: readonly PairingTexture[],
  accepted: readonly AcceptedCell[],
): Feeding[] {
  const byId = new Map(textures.map((t) => [t.id, t]))
  const bySlot = new Map<string, AcceptedCell[]>()
  for (const cell of accepted)
    if (cell.texture !== null && byId.has(cell.texture))
      bySlot.set(cell.slot, [...(bySlot.get(cell.slot) ?? []), cell])
  return assets.flatMap((asset): Feeding[] => {
    const names = nameIn(asset),
      join = new Map<string, PairingTexture>()
    const steps = (asset.subject.mesh?.slots ?? []).flatMap(({ name: slot }) => {
      const cells = bySlot.get(slotId(asset, slot)) ?? []
      if (cells.length === 0) return []
      const options = feedOptions(slot, cells, (input) => {
        const texture = byId.get(cells.find((c) => c.input === input)!.texture!)!
        const { name, own } = names(texture)
        if (!own) join.set(texture.id, texture)
        return name
      })
      return [{ remedy: 'slots/feed' as const, options }]
    })
    return steps.length === 0 ? [] : [{ asset, join: [...join.values()], steps }]
  })
}

/** By which name steps of an asset speak of a texture. */
function nameIn(asset: PairedAsset): (texture: PairingTexture) => { name: string; own: boolean } {
  const own = new Map(
    asset.subject.textures.filter((t) => t.path !== null).map((t) => [textureId(asset, t), t.name]),
  )
  const taken = new Map<string, string>(asset.subject.textures.map((t) => [t.name.toLowerCase(), '']))
  return ({ id, path }) => {
    const known = own.get(id)
    if (known !== undefined) return { name: known, own: true }
    const name = fileName(path),
      key = name.toLowerCase(),
      holder = taken.get(key)
    if (holder === undefined) taken.set(key, id)
    return { name: holder === undefined || holder === id ? name : path, own: false }
  }
}
