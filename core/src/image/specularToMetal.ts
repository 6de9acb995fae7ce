import { colourTexel, lightTable } from './colourTexel'
import { linearToSrgb } from './transferCurves'
import type { Pixels } from './pixels'

/** What specular-glossiness multiplies its textures by; colours in linear light. */
export interface SpecularFactors {
  diffuse: readonly number[]
  opacity: number
  specular: readonly number[]
  gloss: number
}

/** Maps of a surface in the other way of saying it. */
export interface MetalMaps {
  /** sRGB, with alpha where the diffuse map had one or the opacity is less than full. */
  basecolor: Pixels
  /** Roughness in green, metallic in blue, linear. */
  metallicRoughness: Pixels
}

/** Reflectance of non-metals at right angles. */
const DIELECTRIC = 0.04
const TINY = 1e-6

/**
 * Converts diffuse (sRGB) and specular with gloss in alpha (sRGB, alpha plain) to base colour, metallic and
 * roughness, texel by texel: the conversion that the glTF specification's authors published with
 * KHR_materials_pbrSpecularGlossiness. A map that is not there counts as full everywhere. The result has the
 * larger of the two sizes; the smaller one is read at its nearest texel. 8 bits.
 */
export function specularToMetal(
  diffuse: Pixels | null,
  specular: Pixels | null,
  factors: SpecularFactors,
): MetalMaps {
  const width = Math.max(diffuse?.width ?? 1, specular?.width ?? 1),
    height = Math.max(diffuse?.height ?? 1, specular?.height ?? 1)
  const hasAlpha = factors.opacity < 1 || diffuse?.channels === 4 || diffuse?.channels === 2
  const size = hasAlpha ? 4 : 3
  const base = new Uint8Array(width * height * size),
    packed = new Uint8Array(width * height * 3)
  const light = lightTable(),
    d = [0, 0, 0, 1],
    s = [0, 0, 0, 1]
  for (let y = 0, t = 0; y < height; y++)
    for (let x = 0; x < width; x++, t++) {
      colourTexel(diffuse, x / width, y / height, light, d)
      colourTexel(specular, x / width, y / height, light, s)
      for (let c = 0; c < 3; c++) {
        d[c]! *= factors.diffuse[c]!
        s[c]! *= factors.specular[c]!
      }
      const metallic = metallicOf(d, s)
      for (let c = 0; c < 3; c++)
        base[t * size + c] = Math.round(255 * linearToSrgb(baseOf(d, s, metallic, c)))
      if (hasAlpha) base[t * size + 3] = Math.round(255 * Math.min(1, d[3]! * factors.opacity))
      packed[t * 3] = 255
      packed[t * 3 + 1] = Math.round(255 * (1 - Math.min(1, s[3]! * factors.gloss)))
      packed[t * 3 + 2] = Math.round(255 * metallic)
    }
  return {
    basecolor: { width, height, channels: size, depth: 8, data: base },
    metallicRoughness: { width, height, channels: 3, depth: 8, data: packed },
  }
}

const brightness = (c: readonly number[]): number =>
  Math.sqrt(0.299 * c[0]! ** 2 + 0.587 * c[1]! ** 2 + 0.114 * c[2]! ** 2)

/** Solves the quadratic that makes both ways of saying reflect the same. */
export function metallicOf(diffuse: readonly number[], specular: readonly number[]): number {
  const s = brightness(specular)
  if (s < DIELECTRIC) return 0
  const rest = 1 - Math.max(specular[0]!, specular[1]!, specular[2]!)
  const b = (brightness(diffuse) * rest) / (1 - DIELECTRIC) + s - 2 * DIELECTRIC,
    c = DIELECTRIC - s
  const root = Math.sqrt(Math.max(0, b * b - 4 * DIELECTRIC * c))
  return Math.min(1, Math.max(0, (-b + root) / (2 * DIELECTRIC)))
}

function baseOf(
  diffuse: readonly number[],
  specular: readonly number[],
  metallic: number,
  channel: number,
): number {
  const rest = 1 - Math.max(specular[0]!, specular[1]!, specular[2]!)
  const asColour = (diffuse[channel]! * rest) / (1 - DIELECTRIC) / Math.max(1 - metallic, TINY),
    asMetal = (specular[channel]! - DIELECTRIC * (1 - metallic)) / Math.max(metallic, TINY)
  const mix = metallic * metallic
  return Math.min(1, Math.max(0, asColour * (1 - mix) + asMetal * mix))
}
