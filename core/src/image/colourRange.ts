import type { TextureFacts } from '@stern-gate/contract'
import { fullValue, type Pixels } from './pixels'
import { sampleWindows } from './sampleWindows'

const DARK = 30 / 255
const BRIGHT = 240 / 255
/** Texels clearer than this are not seen. */
const SEEN = 8 / 255

/** Share of texels that are darker or brighter, in every colour channel, than surfaces are; clear texels do not count. */
export function colourRange(pixels: Pixels): NonNullable<TextureFacts['range']> {
  const { data, channels, width } = pixels
  const full = fullValue(pixels)
  const low = DARK * full, high = BRIGHT * full, seen = SEEN * full
  const colours = channels < 3 ? 1 : 3, alpha = channels % 2 === 0 ? channels - 1 : -1
  let dark = 0, bright = 0, sampled = 0
  for (const w of sampleWindows(width, pixels.height))
    for (let y = w.y; y < w.y + w.height; y++)
      for (let x = w.x, k = (y * width + w.x) * channels; x < w.x + w.width; x++, k += channels) {
        if (alpha >= 0 && data[k + alpha]! < seen) continue
        let least = data[k]!, most = least
        for (let c = 1; c < colours; c++) {
          const v = data[k + c]!
          if (v < least) least = v
          if (v > most) most = v
        }
        sampled++
        if (most < low) dark++
        if (least > high) bright++
      }
  return { dark: sampled ? dark / sampled : 0, bright: sampled ? bright / sampled : 0, sampled }
}
