import { Color, type MeshStandardMaterial, type Texture, TextureLoader, Vector4 } from 'three'
import type { Tint } from '@stern-gate/contract'

/** A mask and the colours that its channels bring. */
export interface Tinted {
  /** Address of the mask's picture. */
  mask: string
  tints: readonly Tint[]
}

const channels = ['R', 'G', 'B', 'A'] as const

/** Values that the program of a tinted surface reads. */
interface TintUniforms {
  tintMask: { value: Texture | null }
  tintStrengths: { value: Vector4 }
  tintColours: { value: Color[] }
}

/**
 * The base colour is multiplied by the colour of each channel, in linear light, as strongly as the mask and the
 * strength say; the mask lies as the base colour does.
 */
const DECLARED = `
uniform sampler2D tintMask;
uniform vec4 tintStrengths;
uniform vec3 tintColours[4];
`
const TINTED = `#include <map_fragment>
#ifdef USE_MAP
  vec4 tintAmounts = texture2D(tintMask, vMapUv) * tintStrengths;
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[0], tintAmounts.r);
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[1], tintAmounts.g);
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[2], tintAmounts.b);
  diffuseColor.rgb *= mix(vec3(1.0), tintColours[3], tintAmounts.a);
#endif
`

const uniformsOf = new WeakMap<MeshStandardMaterial, TintUniforms>()

/** Tints a worn surface, or leaves its tint without any strength; one that was never tinted stays as it is. */
export function setTint(worn: MeshStandardMaterial, tinted: Tinted | null): void {
  let uniforms = uniformsOf.get(worn)
  if (!tinted) {
    uniforms?.tintStrengths.value.set(0, 0, 0, 0)
    return
  }
  if (!uniforms) {
    uniforms = {
      tintMask: { value: null },
      tintStrengths: { value: new Vector4() },
      tintColours: { value: channels.map(() => new Color(1, 1, 1)) },
    }
    uniformsOf.set(worn, uniforms)
    addTint(worn, uniforms)
  }
  const mask = maskAt(tinted.mask)
  uniforms.tintMask.value = mask.texture
  channels.forEach((channel, k) => {
    const tint = mask.isThere ? tinted.tints.find((t) => t.channel === channel) : undefined
    uniforms.tintStrengths.value.setComponent(k, tint?.strength ?? 0)
    if (tint) uniforms.tintColours.value[k]!.setRGB(...tint.colour)
  })
}

function addTint(worn: MeshStandardMaterial, uniforms: TintUniforms): void {
  worn.onBeforeCompile = (program) => {
    Object.assign(program.uniforms, uniforms)
    program.fragmentShader = DECLARED + program.fragmentShader.replace('#include <map_fragment>', TINTED)
  }
  worn.customProgramCacheKey = () => 'tinted by a mask'
  worn.needsUpdate = true
}

interface Mask {
  texture: Texture
  isThere: boolean
}
const masks = new Map<string, Mask>()
/** So many masks are kept; the one that was asked for longest ago goes first. */
const KEPT = 8
const listeners = new Set<() => void>()

/** Says what is to be done when a mask that was asked for has come; gives what ends it. */
export function onMask(act: () => void): () => void {
  listeners.add(act)
  return () => void listeners.delete(act)
}

function maskAt(address: string): Mask {
  const known = masks.get(address)
  if (known) return known
  const made: Mask = {
    texture: new TextureLoader().load(address, () => {
      made.isThere = true
      for (const act of listeners) act()
    }),
    isThere: false,
  }
  // As glTF's pictures lie
  made.texture.flipY = false
  masks.set(address, made)
  const oldest = [...masks.keys()][0]!
  if (masks.size > KEPT) {
    masks.get(oldest)!.texture.dispose()
    masks.delete(oldest)
  }
  return made
}
