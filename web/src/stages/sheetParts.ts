import type { Texture } from 'three'
import type { StageModel } from './loadModel'
import type { SheetPart } from './uvSheetStage'

/**
 * Triangles of the shown meshes on the sheet of one UV channel, of one slot or (null) of all; parts without
 * the channel are left out.
 */
export function sheetParts(
  model: StageModel,
  shown: readonly string[],
  channel: number,
  wanted: string | null,
): SheetPart[] {
  const name = channel === 0 ? 'uv' : `uv${channel}`
  return model.meshes.flatMap(({ path, primitive, slot, mesh }) => {
    const uv = mesh.geometry.getAttribute(name)
    if (!uv || !shown.includes(path) || (wanted !== null && slot !== wanted)) return []
    const index = mesh.geometry.getIndex(),
      count = index ? index.count : uv.count
    const laid = new Float32Array(count * 2)
    for (let k = 0; k < count; k++) {
      const v = index ? index.getX(k) : k
      laid[k * 2] = uv.getX(v)
      laid[k * 2 + 1] = uv.getY(v)
    }
    return [{ node: path, primitive, slot, uv: laid }]
  })
}

/** Base colour of the first shown part that has one, to lie under the islands. */
export function sheetPicture(model: StageModel, parts: readonly SheetPart[]): Texture | null {
  return (
    model.meshes.find((m) => m.picture && parts.some((p) => p.node === m.path && p.primitive === m.primitive))
      ?.picture ?? null
  )
}
