import type { GroundFacts, TextureFacts } from '@stern-gate/contract'
import { inKernels } from '../kernels/inKernels'
import { fullValue, type Pixels } from './pixels'
import { holdTexels, sampledTexels, valueBytes } from './sampledTexels'

const DARK = 30 / 255
const BRIGHT = 240 / 255
/** Texels clearer than this are not seen. */
const SEEN = 8 / 255

/**
 * Share of texels that are darker or brighter, in every colour channel, than surfaces are; clear texels do
 * not count, nor does the ground outside of islands.
 */
export function colourRange(
  pixels: Pixels,
  sample = sampledTexels(pixels),
  ground: GroundFacts | null = null,
): NonNullable<TextureFacts['range']> {
  const { channels } = pixels,
    full = fullValue(pixels)
  // Two and four channels end with alpha
  const alpha = channels % 2 === 0 ? channels - 1 : channels
  return inKernels((room) => {
    const counts = room.filled(12),
      at = holdTexels(room, sample)
    room.run.rangeOf(
      at,
      sample.texels,
      channels,
      valueBytes(pixels),
      alpha,
      SEEN * full,
      DARK * full,
      BRIGHT * full,
      counts,
    )
    const [sampled, dark, bright] = room.words(counts, 3) as unknown as [number, number, number]
    return withoutGround({ dark, bright, sampled }, ground, sample.texels)
  })
}

/** Takes the texels of the ground out again, all of which are dark, bright or neither. */
function withoutGround(
  { dark, bright, sampled }: NonNullable<TextureFacts['range']>,
  ground: GroundFacts | null,
  texels: number,
): NonNullable<TextureFacts['range']> {
  // What is clear was not counted
  const value = ground?.kind === 'transparent' ? [] : (ground?.value ?? [])
  const out = value.length > 0 ? Math.min(sampled, Math.round(ground!.share * texels)) : 0,
    left = sampled - out
  const isDark = value.every((v) => v < DARK * 255),
    isBright = value.every((v) => v > BRIGHT * 255)
  return {
    dark: left > 0 ? Math.max(0, dark - (isDark ? out : 0)) / left : 0,
    bright: left > 0 ? Math.max(0, bright - (isBright ? out : 0)) / left : 0,
    sampled: left,
  }
}
