import sharp from 'sharp'
import { FloatType } from 'three'
import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { cutFloats, MAX_TEXELS, type Pixels } from '@stern-gate/core'
import { hearing } from './translate/quietLoading'

interface Decoded {
  width: number
  height: number
  data: ArrayLike<number>
  rows: 'from the top' | 'from the bottom'
}

/**
 * Decodes an EXR, a Radiance picture or a TIFF of floats, as cutFloats keeps them. Throws what the loader
 * throws.
 */
export async function decodeFloats(bytes: Uint8Array, header: TextureHeader): Promise<Outcome<Pixels>> {
  const buffer = bytes.slice().buffer
  const { width, height, data, rows } =
    header.format === 'exr'
      ? await exrTexels(buffer)
      : header.format === 'tiff'
        ? await tiffTexels(bytes, buffer, header.channels)
        : await hdrTexels(buffer)
  if (width !== header.width || height !== header.height)
    return bad(
      'image/undecodable',
      'The picture has another size than its header says.',
      'Save or copy it again.',
    )
  const stride = data.length / (width * height),
    from =
      header.channels === 2
        ? [0, stride - 1]
        : Array.from({ length: header.channels }, (_, c) => Math.min(c, stride - 1))
  const values = new Float32Array(width * height * header.channels)
  for (let y = 0, at = 0; y < height; y++) {
    const row = rows === 'from the top' ? y : height - 1 - y
    for (let x = 0; x < width; x++) for (const c of from) values[at++] = data[(row * width + x) * stride + c]!
  }
  return good(cutFloats(width, height, header.channels, values))
}

/**
 * libvips leaves 32-bit floats as they are where it is told that they come and go in one space; halves,
 * doubles and an alpha beside grey it does not read.
 */
async function tiffTexels(bytes: Uint8Array, buffer: ArrayBuffer, channels: number): Promise<Decoded> {
  const { fromArrayBuffer } = await import('geotiff')
  const image = await (await fromArrayBuffer(buffer)).getImage()
  if (image.getBitsPerSample() === 32 && channels !== 2) return plainTiffTexels(bytes, channels)
  const rasters = await image.readRasters({ interleave: true })
  return {
    width: rasters.width,
    height: rasters.height,
    data: rasters as unknown as ArrayLike<number>,
    rows: 'from the top',
  }
}

async function plainTiffTexels(bytes: Uint8Array, channels: number): Promise<Decoded> {
  const space = channels === 1 ? 'b-w' : 'scrgb'
  const { data, info } = await sharp(bytes, {
    limitInputPixels: MAX_TEXELS,
    failOn: 'error',
    ignoreIcc: true,
  })
    .pipelineColourspace(space)
    .toColourspace(space)
    .raw({ depth: 'float' })
    .toBuffer({ resolveWithObject: true })
  return {
    width: info.width,
    height: info.height,
    data: new Float32Array(data.buffer, data.byteOffset, data.byteLength / 4),
    rows: 'from the top',
  }
}

async function exrTexels(buffer: ArrayBuffer): Promise<Decoded> {
  const { EXRLoader } = await import('three/examples/jsm/loaders/EXRLoader.js')
  const { width, height, data } = hearing(() => new EXRLoader().setDataType(FloatType).parse(buffer))
    .value as unknown as { width: number; height: number; data: ArrayLike<number> }
  return { width, height, data, rows: 'from the bottom' }
}

async function hdrTexels(buffer: ArrayBuffer): Promise<Decoded> {
  const { HDRLoader } = await import('three/examples/jsm/loaders/HDRLoader.js')
  const { width, height, data } = hearing(() => new HDRLoader().setDataType(FloatType).parse(buffer))
    .value as unknown as { width: number; height: number; data: ArrayLike<number> }
  return { width, height, data, rows: 'from the top' }
}
