import { decode, encode } from 'fast-png'
import { withPngColourSpace } from '@stern-gate/core'

/** A grey PNG of a function. */
export function oneChannel(size: number, value: (x: number, y: number) => number): Uint8Array {
  const data = new Uint8Array(size * size)
  for (let i = 0; i < data.length; i++) data[i] = value(i % size, Math.floor(i / size))
  return encode({ width: size, height: size, data, channels: 1, depth: 8 })
}

/** Texels of a PNG, each changed. */
function changed(
  png: Uint8Array,
  change: (r: number, g: number, b: number) => [number, number, number],
): Uint8Array {
  const { width, height, data, channels } = decode(png)
  const out = new Uint8Array(width * height * 3)
  for (let t = 0; t < width * height; t++)
    out.set(change(data[t * channels]!, data[t * channels + 1]!, data[t * channels + 2]!), t * 3)
  return encode({ width, height, data: out, channels: 3, depth: 8 })
}

/** Gloss where roughness belongs. */
export const invertedGreen = (png: Uint8Array): Uint8Array => changed(png, (r, g, b) => [r, 255 - g, b])

/** Metallic, roughness, occlusion instead of occlusion, roughness, metallic. */
export const otherOrder = (png: Uint8Array): Uint8Array => changed(png, (r, g, b) => [b, g, r])

/** The grey of a colour picture in all three channels: a bump map, where a normal map was asked for. */
export const greyBump = (png: Uint8Array): Uint8Array =>
  changed(png, (r, g, b) => {
    const grey = Math.round(0.2126 * r + 0.7152 * g + 0.0722 * b)
    return [grey, grey, grey]
  })

/** Another weather: every texel mixed with a colour. */
export const tinted = (png: Uint8Array, [tr, tg, tb]: [number, number, number], share: number): Uint8Array =>
  changed(png, (r, g, b) => [
    Math.round(r + (tr - r) * share),
    Math.round(g + (tg - g) * share),
    Math.round(b + (tb - b) * share),
  ])

/** One channel of a picture as a grey one: 0 red, 1 green, 2 blue. */
export function channelOf(png: Uint8Array, channel: 0 | 1 | 2): Uint8Array {
  const { width, data, channels } = decode(png)
  return oneChannel(width, (x, y) => data[(y * width + x) * channels + channel]!)
}

/** A picture enlarged by linear interpolation: more texels, nothing more in them. */
export function blownUp(png: Uint8Array, times: number): Uint8Array {
  const { width, height, data, channels } = decode(png)
  const out = new Uint8Array(width * times * height * times * 3)
  const at = (x: number, y: number, c: number): number =>
    data[(((y + height) % height) * width + ((x + width) % width)) * channels + c]!
  for (let y = 0; y < height * times; y++)
    for (let x = 0; x < width * times; x++) {
      const u = (x + 0.5) / times - 0.5,
        v = (y + 0.5) / times - 0.5
      const left = Math.floor(u),
        top = Math.floor(v)
      for (let c = 0; c < 3; c++) {
        const above = at(left, top, c) * (1 - u + left) + at(left + 1, top, c) * (u - left)
        const below = at(left, top + 1, c) * (1 - u + left) + at(left + 1, top + 1, c) * (u - left)
        out[(y * width * times + x) * 3 + c] = Math.round(above * (1 - v + top) + below * (v - top))
      }
    }
  return encode({ width: width * times, height: height * times, data: out, channels: 3, depth: 8 })
}

/** A picture with the tag of sRGB. */
export const srgb = (png: Uint8Array): Uint8Array => {
  const tagged = withPngColourSpace(png, 'srgb')
  if (!tagged.ok) throw new Error(tagged.fault.why)
  return tagged.value
}
