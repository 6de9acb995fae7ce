import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { iccProfile, type ColourTag } from './iccProfile'
import { plainTexels } from './plainTexels'

const hint = 'The picture is damaged; save or copy it again.'

/**
 * Reads size and alpha of a WebP (lossy, lossless or extended). Faults: image/truncated, image/bad-structure.
 */
export function readWebpHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  if (bytes.length < 30)
    return bad('image/truncated', 'The WebP ends before it says its size.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (view.getUint32(4, true) + 8 > bytes.length)
    return bad('image/truncated', 'The WebP is shorter than its header claims.', hint, {
      offset: bytes.length,
    })
  const kind = String.fromCharCode(...bytes.subarray(12, 16))
  const size = sizes[kind]?.(bytes, view)
  if (!size)
    return bad('image/bad-structure', 'The WebP holds no picture that is read.', hint, { part: kind.trim() })
  return good({
    format: 'webp',
    width: size.width,
    height: size.height,
    channels: size.alpha ? 4 : 3,
    depth: 8,
    palette: false,
    ...plainTexels,
    alpha: size.alpha,
    ...(size.profile ? profileOf(bytes, view) : { colourSpace: 'unstated' as const, colourEvidence: [] }),
    sizeBytes: bytes.length,
  })
}

/** The chunk ICCP stands right behind the header of the extended form. */
function profileOf(bytes: Uint8Array, view: DataView): ColourTag {
  for (let at = 12; at + 8 <= bytes.length;) {
    const size = view.getUint32(at + 4, true)
    if (String.fromCharCode(...bytes.subarray(at, at + 4)) === 'ICCP')
      return iccProfile(bytes.subarray(at + 8, at + 8 + size))
    at += 8 + size + (size & 1)
  }
  return { colourSpace: 'other', colourEvidence: ['ICC profile, which is missing'] }
}

interface WebpSize {
  width: number
  height: number
  alpha: boolean
  profile: boolean
}

const sizes: Record<string, (bytes: Uint8Array, view: DataView) => WebpSize> = {
  'VP8 ': (_, view) => ({
    width: view.getUint16(26, true) & 0x3fff,
    height: view.getUint16(28, true) & 0x3fff,
    alpha: false,
    profile: false,
  }),
  VP8L: (_, view) => {
    const bits = view.getUint32(21, true)
    return {
      width: (bits & 0x3fff) + 1,
      height: ((bits >>> 14) & 0x3fff) + 1,
      alpha: ((bits >>> 28) & 1) === 1,
      profile: false,
    }
  },
  VP8X: (bytes) => {
    const three = (at: number): number => bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16)
    return {
      width: three(24) + 1,
      height: three(27) + 1,
      alpha: (bytes[20]! & 0x10) !== 0,
      profile: (bytes[20]! & 0x20) !== 0,
    }
  },
}
