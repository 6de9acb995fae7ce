import { decode, encode } from 'fast-png'

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
