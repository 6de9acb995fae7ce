import { fullValue, type Pixels } from './pixels'

/**
 * Mean colour of a picture as stored, 0 to 1, from at most `samples` texels at even steps; grey is spread to
 * all three.
 */
export function averageColour(pixels: Pixels, samples = 65536): [number, number, number] {
  const { data, channels } = pixels
  const texels = data.length / channels
  const step = Math.max(1, Math.floor(texels / samples))
  const full = fullValue(pixels)
  const sum: [number, number, number] = [0, 0, 0]
  let n = 0
  for (let t = 0; t < texels; t += step, n++)
    for (let c = 0; c < 3; c++) sum[c]! += data[t * channels + (channels < 3 ? 0 : c)]!
  return [sum[0] / n / full, sum[1] / n / full, sum[2] / n / full]
}
