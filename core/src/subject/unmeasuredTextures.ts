import type { AssetDraft, MeasuredFile } from '../assembly/assembleAssets'
import { askedBy, meshOf, ownFiles, usesByImage, usesOf } from './buildSubject'
import { usedMask, type UsedMask } from './usedMask'

/** A texture in a file of its own, of which only a part is used. */
export interface UnmeasuredTexture {
  path: string
  mask: UsedMask
}

/** Textures of an asset whose figures over what islands use are not there yet. Those inside meshes come with them. */
export function unmeasuredTextures(
  draft: AssetDraft,
  measured: readonly MeasuredFile[],
): UnmeasuredTexture[] {
  if (draft.kind !== 'mesh') return []
  const own = ownFiles(draft, measured)
  if (own.main?.facts?.kind !== 'mesh' || own.textures.length === 0) return []
  const mesh = meshOf(draft, own)
  if (!mesh) return []
  const uses = usesByImage(mesh)
  const asked = askedBy(
    mesh.file.images,
    own.textures.map((t) => t.path),
  )
  return own.textures.flatMap(({ path, sha256, facts, used = {} }) => {
    if (facts?.kind !== 'texture' || !facts.channels) return []
    const mask = usedMask(mesh, usesOf(uses, asked.get(path) ?? []), sha256)
    return mask && !(mask.key in used) ? [{ path, mask }] : []
  })
}
