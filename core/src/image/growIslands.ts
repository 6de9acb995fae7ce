import { findGround } from './findGround'
import { groundTest } from './groundCells'
import { growRings } from './growRings'
import { alphaPlace, type Pixels } from './pixels'
import { sampledTexels } from './sampledTexels'

export interface Grown {
  pixels: Pixels
  /** Texels that were ground and continue an island now. */
  texels: number
}

/**
 * Continues islands outward over the ground of a picture: ring by ring each texel of ground takes the mean of its
 * neighbours that are done already. What is no ground stays as it is, and alpha everywhere. `islands` has 1 for each
 * texel that is used; null where the picture has no ground, or only one that is transparent.
 */
export function growIslands(pixels: Pixels, islands: Uint8Array, rings: number): Grown | null {
  const ground = findGround(pixels, sampledTexels(pixels))?.facts
  if (!ground || ground.kind === 'transparent') return null
  const { width, height, channels } = pixels,
    data = pixels.data.slice(),
    colours = alphaPlace(channels) < 0 ? channels : channels - 1
  const isGround = groundTest(pixels, ground)
  // Where an island has the colour of the ground itself it has nothing to go on with
  const seeds = islands.map((used, texel) => (used ? (isGround(texel) ? 2 : 1) : 0))
  let texels = 0
  growRings(seeds, [width, height], rings, (texel, known) => {
    if (!isGround(texel)) return
    texels++
    for (let c = 0; c < colours; c++) {
      let sum = 0
      for (const other of known) sum += data[other * channels + c]!
      data[texel * channels + c] = Math.round(sum / known.length)
    }
  })
  return { pixels: { ...pixels, data }, texels }
}
