import { good, type Outcome } from '@stern-gate/contract'
import { pngChunks } from '../read/readPngHeader'

const COLOUR_CHUNKS = new Set(['cICP', 'iCCP', 'sRGB', 'gAMA', 'cHRM'])

/**
 * Returns the PNG with its colour space stated anew: sRGB as an sRGB chunk with the matching gAMA, linear as
 * gAMA 1.0. All other chunks, the picture data among them, stay byte for byte. Faults: those of a damaged
 * PNG.
 */
export function withPngColourSpace(bytes: Uint8Array, space: 'srgb' | 'linear'): Outcome<Uint8Array> {
  const chunks = pngChunks(bytes)
  if (!chunks.ok) return chunks
  const pieces: Uint8Array[] = [bytes.subarray(0, 8)]
  for (const chunk of chunks.value) {
    if (COLOUR_CHUNKS.has(chunk.type)) continue
    pieces.push(bytes.subarray(chunk.offset, chunk.offset + 12 + chunk.length))
    // Colour chunks must stand before the palette and the picture data
    if (chunk.type === 'IHDR')
      pieces.push(
        ...(space === 'srgb'
          ? [pngChunk('sRGB', Uint8Array.of(0)), pngChunk('gAMA', bigEndian(45455))]
          : [pngChunk('gAMA', bigEndian(100000))]),
      )
  }
  return good(joinBytes(pieces))
}

/** One chunk with length and checksum. */
export function pngChunk(type: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + data.length)
  const view = new DataView(out.buffer)
  view.setUint32(0, data.length)
  for (let i = 0; i < 4; i++) out[4 + i] = type.charCodeAt(i)
  out.set(data, 8)
  view.setUint32(8 + data.length, crc32(out.subarray(4, 8 + data.length)))
  return out
}

/** Joins byte arrays into one. */
export function joinBytes(pieces: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(pieces.reduce((sum, p) => sum + p.length, 0))
  let at = 0
  for (const piece of pieces) {
    out.set(piece, at)
    at += piece.length
  }
  return out
}

function bigEndian(value: number): Uint8Array {
  const out = new Uint8Array(4)
  new DataView(out.buffer).setUint32(0, value)
  return out
}

/** CRC-32 of ISO 3309, as the PNG specification prescribes (annex D). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff
  for (const byte of bytes) {
    crc ^= byte
    for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1
  }
  return (crc ^ 0xffffffff) >>> 0
}
