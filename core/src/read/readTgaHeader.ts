import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { plainTexels } from './plainTexels'

/** Reads size and channels of a TGA. Faults: image/truncated, image/bad-structure. */
export function readTgaHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const hint = 'The picture is damaged; save or copy it again.'
  if (bytes.length < 18) return bad('image/truncated', 'The TGA ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const type = view.getUint8(2), width = view.getUint16(12, true), height = view.getUint16(14, true), bits = view.getUint8(16), alphaBits = view.getUint8(17) & 15
  const mapped = type === 1 || type === 9, grey = type === 3 || type === 11
  const mapBits = view.getUint8(7)
  if (width === 0 || height === 0) return bad('image/bad-structure', `The TGA header makes no sense: ${width} × ${height}.`, hint, { part: 'header' })
  const plain = !mapped && type < 8
  const needed = 18 + view.getUint8(0) + width * height * Math.ceil(bits / 8)
  if (plain && bytes.length < needed) return bad('image/truncated', `The TGA needs ${needed} bytes for ${width} × ${height} texels, it has ${bytes.length}.`, hint, { offset: bytes.length })
  const alpha = grey ? bits === 16 : mapped ? mapBits === 32 : bits === 32 && alphaBits > 0
  return good({
    format: 'tga', width, height, channels: grey ? (alpha ? 2 : 1) : alpha ? 4 : 3, depth: 8, palette: mapped, alpha, ...plainTexels,
    colourSpace: 'unstated', colourEvidence: [], sizeBytes: bytes.length,
  })
}
