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
  const alpha = channels % 2 === 0 ? channels - 1 : -1
  // In grey all three are the one
  const green = channels < 3 ? 0 : 1, blue = channels < 3 ? 0 : 2
  let dark = 0, bright = 0, sampled = 0
  for (const w of sampleWindows(width, pixels.height))
    for (let y = w.y; y < w.y + w.height; y++) {
      const end = (y * width + w.x + w.width) * channels
      for (let k = (y * width + w.x) * channels; k < end; k += channels) {
        if (alpha >= 0 && data[k + alpha]! < seen) continue
        const r = data[k]!, g = data[k + green]!, b = data[k + blue]!
        sampled++
        if (r < low && g < low && b < low) dark++
        else if (r > high && g > high && b > high) bright++
      }
    }
  return { dark: sampled ? dark / sampled : 0, bright: sampled ? bright / sampled : 0, sampled }
}
