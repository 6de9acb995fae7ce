import type { Document, TextureInfo } from '@gltf-transform/core'
import { KHRTextureTransform, Transform } from '@gltf-transform/extensions'
import type { TexturePlacement } from '@stern-gate/contract'

const TRANSFORM = 'KHR_texture_transform'

/** The UV channel that an input reads, counted from 0; a transform may say another than the input does. */
export const channelOf = (info: TextureInfo): number =>
  info.getExtension<Transform>(TRANSFORM)?.getTexCoord() ?? info.getTexCoord()

/** How a texture lies on its channel; null: as the channel says. */
export function placementOf(info: TextureInfo): TexturePlacement | null {
  const transform = info.getExtension<Transform>(TRANSFORM)
  if (!transform) return null
  const [u, v] = transform.getScale(),
    [x, y] = transform.getOffset(),
    turn = transform.getRotation()
  return u === 1 && v === 1 && x === 0 && y === 0 && turn === 0
    ? null
    : { tiling: [u, v], offset: [x, y], turn }
}

/** Places a texture; what is undefined stays. A placement that does nothing is taken away. */
export function placeTexture(
  document: Document,
  info: TextureInfo,
  { tiling, offset, turn, channel }: Partial<TexturePlacement> & { channel?: number },
): void {
  const before = lieOf(info)
  const transform =
    info.getExtension<Transform>(TRANSFORM) ?? document.createExtension(KHRTextureTransform).createTransform()
  transform
    .setScale([...(tiling ?? before.tiling)])
    .setOffset([...(offset ?? before.offset)])
    .setRotation(turn ?? before.turn)
    .setTexCoord(null)
  info.setTexCoord(channel ?? before.channel).setExtension(TRANSFORM, transform)
  if (placementOf(info)) return
  transform.dispose()
  leaveUnused(document)
}

/** A file does not say that it uses what nothing in it uses. */
function leaveUnused(document: Document): void {
  const used = document
    .getGraph()
    .listEdges()
    .some((edge) => edge.getChild() instanceof Transform)
  if (!used) document.createExtension(KHRTextureTransform).dispose()
}

/** How a texture lies, with what glTF means where nothing is said. */
export const lieOf = (info: TextureInfo): TexturePlacement & { channel: number } => ({
  ...(placementOf(info) ?? { tiling: [1, 1], offset: [0, 0], turn: 0 }),
  channel: channelOf(info),
})

/**
 * UVs as a texture is read at them: scaled, turned counter-clockwise and moved, in this order (KHR_texture_transform).
 * The list itself where the placement does nothing.
 */
export function placedUvs(uvs: Float32Array, placement: TexturePlacement | null): Float32Array {
  if (!placement) return uvs
  const [su, sv] = placement.tiling,
    [x, y] = placement.offset,
    c = Math.cos(placement.turn),
    s = Math.sin(placement.turn)
  const out = new Float32Array(uvs.length)
  for (let k = 0; k + 1 < uvs.length; k += 2) {
    const u = uvs[k]! * su,
      v = uvs[k + 1]! * sv
    out[k] = c * u + s * v + x
    out[k + 1] = c * v - s * u + y
  }
  return out
}
