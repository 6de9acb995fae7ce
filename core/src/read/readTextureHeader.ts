import {
  bad,
  formatWords,
  good,
  textureFormatWords,
  type Outcome,
  type TextureFormat,
  type TextureHeader,
} from '@stern-gate/contract'
import { fileKind } from './fileKind'
import { readAvifHeader } from './readAvifHeader'
import { readExrHeader, readHdrHeader } from './readFloatHeaders'
import { readTiffHeader } from './readTiffHeader'
import { readDdsHeader } from './readDdsHeader'
import { readKtx2Header } from './readKtx2Header'
import { readPngHeader } from './readPngHeader'
import { readJpegHeader } from './readJpegHeader'
import { readTgaHeader } from './readTgaHeader'
import { readWebpHeader } from './readWebpHeader'

/**
 * A decoded picture may have this many texels at the most; checked from the header before anything is
 * allocated.
 */
export const MAX_TEXELS = 16384 * 16384
export const MAX_SIDE = 32768

const readers: Record<TextureFormat, (bytes: Uint8Array) => Outcome<TextureHeader>> = {
  png: readPngHeader,
  jpeg: readJpegHeader,
  webp: readWebpHeader,
  tga: readTgaHeader,
  ktx2: readKtx2Header,
  dds: readDdsHeader,
  tiff: readTiffHeader,
  avif: readAvifHeader,
  exr: readExrHeader,
  hdr: readHdrHeader,
}

/**
 * Reads what the header of a PNG, JPEG, WebP, AVIF, TGA, TIFF, KTX2, DDS, EXR or Radiance HDR says; nothing
 * is decoded. TGA has no mark of its own: pass the file's name for it. Faults: file/empty,
 * image/format-not-read, image/truncated, image/bad-structure, image/too-large.
 */
export function readTextureHeader(bytes: Uint8Array, path = ''): Outcome<TextureHeader> {
  if (bytes.length === 0) return bad('file/empty', 'The file has no bytes.', 'Export or copy it again.')
  const kind = fileKind(bytes, path)
  const header = kind in readers ? readers[kind as TextureFormat](bytes) : null
  if (!header)
    return bad(
      'image/format-not-read',
      kind === 'unknown'
        ? 'The bytes are no picture format that is read.'
        : `${formatWords(kind)} pictures are not read.`,
      `Deliver one of ${textureFormatWords}.`,
    )
  if (!header.ok) return header
  const { width, height } = header.value
  if (width > MAX_SIDE || height > MAX_SIDE || width * height > MAX_TEXELS)
    return bad(
      'image/too-large',
      `The header says ${width} × ${height} texels; at most ${MAX_SIDE} a side and ${MAX_TEXELS} in all are decoded.`,
      'Check the file: so large a picture is most likely damaged.',
      { part: 'size' },
    )
  return good({ ...header.value, sizeBytes: bytes.length })
}
