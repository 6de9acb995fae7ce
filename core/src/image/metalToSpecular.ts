import { colourTexel, lightTable } from './colourTexel'
import { linearToSrgb } from './transferCurves'
import type { Pixels } from './pixels'

/** What metallic-roughness multiplies its textures by; colours in linear light. */
export interface MetalFactors {
  base: readonly number[]
  opacity: number
  metallic: number
  roughness: number
}

/** Maps of a surface in the other way of saying it. */
export interface SpecularMaps {
  /** sRGB, with alpha where the base colour had one or the opacity is less than full. */
  diffuse: Pixels
  /** Specular in sRGB, gloss in alpha. */
  specularGloss: Pixels
}

/** Reflectance of non-metals at right angles. */
const DIELECTRIC = 0.04
const TINY = 1e-6

/**
 * Converts base colour (sRGB) and roughness and metallic (linear, green and blue) to diffuse, specular and gloss, texel
 * by texel: the conversion that the glTF specification's authors published with KHR_materials_pbrSpecularGlossiness. A
 * map that is not there counts as full everywhere. The result has the larger of the two sizes; the smaller one is read
 * at its nearest texel. 8 bits.
 */
export function metalToSpecular(
  base: Pixels | null,
  packed: Pixels | null,
  factors: MetalFactors,
): SpecularMaps {
  const width = Math.max(base?.width ?? 1, packed?.width ?? 1),
    height = Math.max(base?.height ?? 1, packed?.height ?? 1)
  const hasAlpha = factors.opacity < 1 || base?.channels === 4 || base?.channels === 2
  const size = hasAlpha ? 4 : 3
  const diffuse = new Uint8Array(width * height * size),
    specularGloss = new Uint8Array(width * height * 4)
  const light = lightTable(),
    b = [0, 0, 0, 1],
    p = [0, 0, 0, 1],
    s = [0, 0, 0]
  for (let y = 0, t = 0; y < height; y++)
    for (let x = 0; x < width; x++, t++) {
      colourTexel(base, x / width, y / height, light, b)
      colourTexel(packed, x / width, y / height, null, p)
      const metallic = Math.min(1, p[2]! * factors.metallic),
        roughness = Math.min(1, p[1]! * factors.roughness)
      for (let c = 0; c < 3; c++) {
        b[c]! *= factors.base[c]!
        s[c] = DIELECTRIC + (b[c]! - DIELECTRIC) * metallic
      }
      const rest = Math.max(TINY, 1 - Math.max(s[0]!, s[1]!, s[2]!))
      for (let c = 0; c < 3; c++) {
        const value = Math.min(1, (b[c]! * (1 - DIELECTRIC) * (1 - metallic)) / rest)
        diffuse[t * size + c] = Math.round(255 * linearToSrgb(value))
        specularGloss[t * 4 + c] = Math.round(255 * linearToSrgb(Math.min(1, s[c]!)))
      }
      if (hasAlpha) diffuse[t * size + 3] = Math.round(255 * Math.min(1, b[3]! * factors.opacity))
      specularGloss[t * 4 + 3] = Math.round(255 * (1 - roughness))
    }
  return {
    diffuse: { width, height, channels: size, depth: 8, data: diffuse },
    specularGloss: { width, height, channels: 4, depth: 8, data: specularGloss },
  }
}
