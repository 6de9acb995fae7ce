import type { GroundFacts } from '@stern-gate/contract'
import { CELLS, packCells } from '../geometry/cellMask'
import { fullValue, type Pixels } from './pixels'

/** Lossy packing leaves the ground this uneven, of 255. */
export const GROUND_NEAR = 3
/** A picture whose cells have fewer texels across is not looked at. */
const LEAST_TEXELS = 2

/** Tells of a texel, by its number, whether it has the colour of the ground, which is not one that is transparent. */
export function groundTest(pixels: Pixels, { value }: GroundFacts): (texel: number) => boolean {
  const { channels, data } = pixels,
    scale = fullValue(pixels) / 255,
    near = GROUND_NEAR * scale,
    wanted = value.map((v) => v * scale)
  return (texel) => {
    for (let c = 0, at = texel * channels; c < wanted.length; c++, at++)
      if (Math.abs(data[at]! - wanted[c]!) > near) return false
    return true
  }
}

/**
 * Which cells of a picture are mostly its ground, packed. Null where it is too small for cells, and where the ground is
 * what is transparent: what stands under it is not seen.
 */
export function groundCells(pixels: Pixels, ground: GroundFacts): string | null {
  const { width, height } = pixels
  if (ground.kind === 'transparent' || Math.min(width, height) < CELLS * LEAST_TEXELS) return null
  const isGround = groundTest(pixels, ground)
  const grounds = new Uint32Array(CELLS * CELLS),
    all = new Uint32Array(CELLS * CELLS)
  const column = Uint32Array.from({ length: width }, (_, x) => Math.floor((x * CELLS) / width))
  for (let y = 0, texel = 0; y < height; y++) {
    const row = Math.floor((y * CELLS) / height) * CELLS
    for (let x = 0; x < width; x++, texel++) {
      const cell = row + column[x]!
      all[cell]!++
      if (isGround(texel)) grounds[cell]!++
    }
  }
  return packCells(Uint8Array.from(grounds, (n, cell) => (n * 2 > all[cell]! ? 1 : 0)))
}
