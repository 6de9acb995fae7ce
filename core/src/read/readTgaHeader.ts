import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { plainTexels } from './plainTexels'

/** Reads size and channels of a TGA. Faults: image/truncated, image/bad-structure. */
export function readTgaHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const hint = 'The picture is damaged; save or copy it again.'
  if (bytes.length < 18)
    return bad('image/truncated', 'The TGA ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const type = view.getUint8(2),
    width = view.getUint16(12, true),
    height = view.getUint16(14, true),
    bits = view.getUint8(16),
    alphaBits = view.getUint8(17) & 15
  const mapped = type === 1 || type === 9,
    grey = type === 3 || type === 11
  const mapBits = view.getUint8(7)
  if (width === 0 || height === 0)
    return bad('image/bad-structure', `The TGA header makes no sense: ${width} × ${height}.`, hint, {
      part: 'header',
    })
  const plain = !mapped && type < 8
  const from =
    18 + view.getUint8(0) + (view.getUint8(1) === 1 ? view.getUint16(5, true) * Math.ceil(mapBits / 8) : 0)
  const needed = from + width * height * Math.ceil(bits / 8)
  if (plain && bytes.length < needed)
    return bad(
      'image/truncated',
      `The TGA needs ${needed} bytes for ${width} × ${height} texels, it has ${bytes.length}.`,
      hint,
      { offset: bytes.length },
    )
  const alpha = grey
    ? bits === 16
    : mapped
      ? mapBits === 32
      : bits === 32 && (alphaBits > 0 || hasAlphaBytes(bytes, from, plain, width * height))
  return good({
    format: 'tga',
    width,
    height,
    channels: grey ? (alpha ? 2 : 1) : alpha ? 4 : 3,
    depth: 8,
    palette: mapped,
    alpha,
    ...plainTexels,
    colourSpace: 'unstated',
    colourEvidence: [],
    sizeBytes: bytes.length,
  })
}

/**
 * Many writers give 32 bits a texel and state no bits of alpha. What they write is alpha all the same, unless
 * it is 0 everywhere.
 */
function hasAlphaBytes(bytes: Uint8Array, from: number, plain: boolean, texels: number): boolean {
  for (let at = from, left = texels; left > 0 && at < bytes.length;) {
    // A packet: up to 128 texels, one by one or one for all
    const head = plain ? 127 : bytes[at++]!,
      run = head > 127,
      count = Math.min(left, (head & 127) + 1)
    for (let k = 0; k < (run ? 1 : count); k++, at += 4) if ((bytes[at + 3] ?? 0) > 0) return true
    left -= count
  }
  return false
}
