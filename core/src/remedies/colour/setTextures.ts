import type { TextureInfo } from '@gltf-transform/core'
import { isUsed } from '../madeTextures'
import type { Work } from '../work'

/** UV channel, tiling and wrapping go along. */
export const copyInfo = (from: TextureInfo | null, to: TextureInfo | null): void =>
  void (from && to?.copy(from))

/** Takes pictures out of the mesh that no slot refers to any more, and their textures. */
export function dropUnusedTextures(work: Work): void {
  for (const texture of work.textures)
    if (texture.pictures.length > 0 && !isUsed(texture)) texture.pictures.forEach((p) => p.dispose())
  work.textures = work.textures.filter((t) => t.pictures.length === 0 || isUsed(t))
}
