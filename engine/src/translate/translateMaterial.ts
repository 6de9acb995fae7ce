import type { Color, Material, Texture } from 'three'
import type { TranslatedSlot } from '@stern-gate/core'

/** What materials of the library may have, whichever of its kinds they are. */
interface AnyMaterial extends Material {
  color?: Color
  emissive?: Color
  emissiveIntensity?: number
  shininess?: number
  metalness?: number
  roughness?: number
  map?: Texture | null
  normalMap?: Texture | null
  bumpMap?: Texture | null
  emissiveMap?: Texture | null
  aoMap?: Texture | null
  specularMap?: Texture | null
  alphaMap?: Texture | null
  lightMap?: Texture | null
  displacementMap?: Texture | null
  envMap?: Texture | null
  metalnessMap?: Texture | null
  roughnessMap?: Texture | null
}

/** A slot out of a material. What a slot has no place for is told to `lose`. */
export function translateMaterial(material: Material, lose: (what: string) => void): TranslatedSlot {
  const m = material as AnyMaterial
  for (const key of ['specularMap', 'alphaMap', 'lightMap', 'displacementMap', 'envMap'] as const)
    if (m[key]) lose(`${key.replace('Map', '')} map`)
  if (m.bumpMap && m.normalMap) lose('bump map beside a normal map')
  const path = (texture: Texture | null | undefined): string | undefined =>
    (texture?.userData['path'] as string | undefined) || undefined
  const basecolor = path(m.map),
    { r, g, b } = m.color ?? { r: 1, g: 1, b: 1 }
  const glow = m.emissive ? m.emissive.clone().multiplyScalar(m.emissiveIntensity ?? 1) : null
  const within = (v: number): number => Math.min(1, Math.max(0, v))
  return {
    name: material.name,
    doubleSided: material.side === 2,
    baseColour: basecolor ? [1, 1, 1, m.opacity] : [within(r), within(g), within(b), m.opacity],
    metallic: m.metalness ?? 0,
    // Roughness for a Blinn-Phong exponent: α² = 2 / (n + 2), α = roughness² (Walter et al. 2007)
    roughness: m.roughness ?? (m.shininess === undefined ? 1 : (2 / (Math.max(0, m.shininess) + 2)) ** 0.25),
    emissive:
      m.emissiveMap && path(m.emissiveMap)
        ? [1, 1, 1]
        : glow
          ? [within(glow.r), within(glow.g), within(glow.b)]
          : [0, 0, 0],
    alphaMode: m.opacity < 1 ? 'BLEND' : 'OPAQUE',
    textures: {
      basecolor,
      normal: path(m.normalMap) ?? path(m.bumpMap),
      metallicRoughness: path(m.roughnessMap ?? m.metalnessMap),
      occlusion: path(m.aoMap),
      emissive: path(m.emissiveMap),
    },
  }
}

export const pathsOf = (slot: TranslatedSlot): string[] =>
  Object.values(slot.textures).filter((p): p is string => p !== undefined)
