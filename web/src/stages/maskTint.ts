import type { MeshStandardMaterial } from 'three'
import { tintChannels, type Tint } from '@stern-gate/contract'
import { addLook, lookOf } from './lookShader'
import { pictureAt } from './stagePictures'

/** A mask and the colours that its channels bring. */
export interface Tinted {
  /** Address of the mask's picture. */
  mask: string
  tints: readonly Tint[]
}

/** Tints a worn surface, or leaves its tint without any strength; one that was never tinted stays as it is. */
export function setTint(worn: MeshStandardMaterial, tinted: Tinted | null): void {
  if (!tinted) {
    lookOf(worn)?.tintStrengths.value.set(0, 0, 0, 0)
    return
  }
  const uniforms = addLook(worn),
    mask = pictureAt(tinted.mask)
  uniforms.tintMask.value = mask.texture
  tintChannels.forEach((channel, k) => {
    const tint = mask.isThere ? tinted.tints.find((t) => t.channel === channel) : undefined
    uniforms.tintStrengths.value.setComponent(k, tint?.strength ?? 0)
    if (tint) uniforms.tintColours.value[k]!.setRGB(...tint.colour)
  })
}
