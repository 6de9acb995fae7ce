import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { iccProfile } from './iccProfile'
import { plainTexels } from './plainTexels'

const hint = 'The picture is damaged; save or copy it again.'
const tags = {
  width: 256,
  height: 257,
  bits: 258,
  photometric: 262,
  samples: 277,
  extra: 338,
  sampleFormat: 339,
  profile: 34675,
} as const
const BYTES: Record<number, number> = { 1: 1, 3: 2, 4: 4 }
/**
 * Photometric interpretations: 0 and 1 grey, 2 RGB, 3 palette. Others (CMYK, Lab …) are not texels of a game.
 */
const PALETTE = 3
/** Sample formats. */
const WHOLE = 1,
  FLOAT = 3,
  FLOAT_BITS = new Set([16, 32, 64])

/**
 * Reads what the first directory of a TIFF says (TIFF 6.0). Whole numbers above 16 bits, and what is neither
 * grey, RGB nor palette, are not decoded. Faults: image/truncated, image/bad-structure,
 * image/format-not-read.
 */
export function readTiffHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  if (bytes.length < 8)
    return bad('image/truncated', 'The TIFF ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
    little = bytes[0] === 0x49
  if (view.getUint16(2, little) === 43)
    return bad('image/format-not-read', 'BigTIFF files are not read.', 'Save it as a plain TIFF or PNG.')
  const directory = view.getUint32(4, little)
  if (directory + 2 > bytes.length)
    return bad('image/truncated', 'The TIFF ends before its directory.', hint, { offset: bytes.length })
  const count = view.getUint16(directory, little)
  if (directory + 2 + count * 12 > bytes.length)
    return bad('image/truncated', 'The TIFF ends inside its directory.', hint, { offset: bytes.length })
  const found = readTags(view, directory, count, little)
  const one = (tag: number): number | undefined => found.get(tag)?.[0]
  const width = one(tags.width) ?? 0,
    height = one(tags.height) ?? 0
  if (width === 0 || height === 0)
    return bad('image/bad-structure', 'The TIFF does not say its size.', hint, { part: 'directory' })
  const samples = one(tags.samples) ?? 1,
    bits = one(tags.bits) ?? 1,
    photometric = one(tags.photometric) ?? 1,
    palette = photometric === PALETTE,
    sample = one(tags.sampleFormat) ?? WHOLE
  const channels = palette ? 3 : samples
  if (channels < 1 || channels > 4)
    return bad(
      'image/bad-structure',
      `The TIFF has ${samples} samples a texel; up to 4 are read.`,
      'Save it with one to four channels.',
      { part: 'directory' },
    )
  return good({
    format: 'tiff',
    width,
    height,
    channels,
    depth: bits > 16 || sample === FLOAT ? 32 : bits > 8 ? 16 : 8,
    palette,
    alpha: channels === 2 || channels === 4,
    ...plainTexels,
    decodes:
      photometric <= PALETTE &&
      (sample === WHOLE ? bits <= 16 : sample === FLOAT && FLOAT_BITS.has(bits) && !palette),
    ...(found.has(tags.profile)
      ? iccProfile(profileBytes(bytes, view, { directory, count, little }))
      : { colourSpace: 'unstated' as const, colourEvidence: [] }),
    sizeBytes: bytes.length,
  })
}

/** Bytes of the profile that a directory points at; empty where it points past the end. */
function profileBytes(
  bytes: Uint8Array,
  view: DataView,
  { directory, count, little }: { directory: number; count: number; little: boolean },
): Uint8Array {
  for (let k = 0; k < count; k++) {
    const at = directory + 2 + k * 12
    if (view.getUint16(at, little) !== tags.profile) continue
    const from = view.getUint32(at + 8, little)
    return bytes.subarray(from, from + view.getUint32(at + 4, little))
  }
  return new Uint8Array(0)
}

function readTags(view: DataView, directory: number, count: number, little: boolean): Map<number, number[]> {
  const known = new Set<number>(Object.values(tags)),
    found = new Map<number, number[]>()
  for (let k = 0; k < count; k++) {
    const at = directory + 2 + k * 12,
      tag = view.getUint16(at, little),
      type = view.getUint16(at + 2, little),
      length = view.getUint32(at + 4, little)
    if (!known.has(tag)) continue
    const size = BYTES[type],
      few = Math.min(length, 4)
    const from = size !== undefined && size * length > 4 ? view.getUint32(at + 8, little) : at + 8
    const values: number[] = []
    for (let i = 0; size !== undefined && i < few && from + (i + 1) * size <= view.byteLength; i++)
      values.push(
        size === 1
          ? view.getUint8(from + i)
          : size === 2
            ? view.getUint16(from + i * 2, little)
            : view.getUint32(from + i * 4, little),
      )
    found.set(tag, values)
  }
  return found
}
