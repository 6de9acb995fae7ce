import { decodeTga } from '@lunapaint/tga-codec'
import sharp from 'sharp'
import { bad, good, type Outcome, type TextureHeader, formatWords } from '@stern-gate/contract'
import { MAX_TEXELS, type DecodeImage, type EncodePng, type Pixels } from '@stern-gate/core'
import { decodeStored } from './storedTexels'

// One thread a picture: the pool spreads files over the cores already
sharp.concurrency(1)
sharp.cache(false)

/**
 * Decodes with libvips, and what that does not know by readers of its own. Stored values come out as they
 * are: no profile, gamma or turn is applied. Faults: image/undecodable.
 */
export const decodeImage: DecodeImage = async (bytes, header) => {
  try {
    if (header.format === 'tga') return await decodeTexelsOfTga(bytes, header)
    if (header.format === 'dds' || header.format === 'ktx2') return await decodeStored(bytes, header)
    if (
      header.format === 'exr' ||
      header.format === 'hdr' ||
      (header.format === 'tiff' && header.depth === 32)
    )
      return await (await import('./floatTexels')).decodeFloats(bytes, header)
    return await decodeWithVips(bytes, header)
  } catch {
    return undecodable(header, 'its data do not decode')
  }
}

async function decodeWithVips(bytes: Uint8Array, header: TextureHeader): Promise<Outcome<Pixels>> {
  const picture = sharp(bytes, { limitInputPixels: MAX_TEXELS, failOn: 'error', ignoreIcc: true })
  const deep = header.depth === 16
  if (deep) picture.toColourspace(header.channels < 3 ? 'grey16' : 'rgb16')
  // Grey with alpha goes by way of RGB: 'b-w' would drop the alpha
  else if (header.channels === 1) picture.toColourspace('b-w')
  // Words of libvips lie in one buffer for the whole process: with several threads at work they may be about
  // another picture
  const decoded = await picture
    .raw(deep ? { depth: 'ushort' } : {})
    .toBuffer({ resolveWithObject: true })
    .catch(() => null)
  if (!decoded) return undecodable(header)
  const pixels = asPixels(decoded.data, decoded.info, deep)
  return good(header.channels === 2 && pixels.channels > 2 ? greyAndAlpha(pixels) : pixels)
}

/** The TGA reader always gives RGBA; what the header says is kept of it. */
async function decodeTexelsOfTga(bytes: Uint8Array, header: TextureHeader): Promise<Outcome<Pixels>> {
  const { image } = await decodeTga(bytes)
  const texels = image.width * image.height
  if (image.width !== header.width || image.height !== header.height || image.data.length !== texels * 4)
    return undecodable(header, 'the picture has another size than its header says')
  const data = new Uint8Array(texels * header.channels)
  const from = header.channels === 2 ? [0, 3] : [0, 1, 2, 3].slice(0, header.channels)
  for (let t = 0; t < texels; t++)
    for (let c = 0; c < header.channels; c++) data[t * header.channels + c] = image.data[t * 4 + from[c]!]!
  return good({ width: image.width, height: image.height, channels: header.channels, depth: 8, data })
}

function asPixels(
  data: Buffer,
  info: { width: number; height: number; channels: number },
  deep: boolean,
): Pixels {
  const own = deep
    ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
    : new Uint8Array(data.buffer, data.byteOffset, data.byteLength)
  return { width: info.width, height: info.height, channels: info.channels, depth: deep ? 16 : 8, data: own }
}

function greyAndAlpha({ width, height, channels, depth, data }: Pixels): Pixels {
  const out = new (depth === 16 ? Uint16Array : Uint8Array)(width * height * 2)
  for (let t = 0; t < width * height; t++) {
    out[t * 2] = data[t * channels]!
    out[t * 2 + 1] = channels === 4 ? data[t * channels + 3]! : depth === 16 ? 65535 : 255
  }
  return { width, height, channels: 2, depth, data: out }
}

const undecodable = (header: TextureHeader, said = ''): Outcome<Pixels> =>
  bad(
    'image/undecodable',
    `The ${formatWords(header.format)} has a sound header, but its picture cannot be decoded${said && `: ${said}`}.`,
    'The picture is damaged; save or copy it again.',
  )

/** Writes a PNG of the values as they are. */
export const encodePng: EncodePng = async ({ width, height, channels, depth, data }) => {
  const deep = depth === 16
  const raw = { width, height, channels: channels as 1 | 2 | 3 | 4 }
  const picture = deep
    ? sharp(data as Uint16Array, { raw }).toColourspace(channels < 3 ? 'grey16' : 'rgb16')
    : sharp(data as Uint8Array, { raw }).toColourspace(channels < 3 ? 'b-w' : 'srgb')
  return new Uint8Array(await picture.png({ compressionLevel: 6 }).toBuffer())
}
