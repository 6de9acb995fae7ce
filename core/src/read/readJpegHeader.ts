import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { iccProfile, type ColourTag } from './iccProfile'
import { plainTexels } from './plainTexels'

const hint = 'The picture is damaged; save or copy it again.'
const isFrame = (marker: number): boolean =>
  marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)

/**
 * Reads size, channels and a colour profile of a JPEG by walking its markers. Faults: image/truncated,
 * image/bad-structure.
 */
export function readJpegHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const pieces: Uint8Array[] = []
  for (let at = 2; at + 4 <= bytes.length;) {
    if (bytes[at] !== 0xff)
      return bad('image/bad-structure', `At byte ${at} a JPEG marker was expected.`, hint, { offset: at })
    const marker = bytes[at + 1]!
    if (marker === 0xff) {
      at++
      continue
    }
    const length = view.getUint16(at + 2)
    if (length < 2 || at + 2 + length > bytes.length) break
    const body = bytes.subarray(at + 4, at + 2 + length)
    // Behind the name stand a 0, the piece's number and how many there are
    if (marker === 0xe2 && text(body, 11) === 'ICC_PROFILE') pieces[body[12]!] = body.subarray(14)
    if (isFrame(marker)) return frame(body, bytes.length, profile(pieces))
    if (marker === 0xda) break
    at += 2 + length
  }
  return bad('image/truncated', 'The JPEG ends before it says its size.', hint, { offset: bytes.length })
}

const text = (bytes: Uint8Array, length: number): string => String.fromCharCode(...bytes.subarray(0, length))

/** A profile of more than 64 KB comes in several pieces, numbered from 1. */
function profile(pieces: readonly Uint8Array[]): ColourTag {
  const all = pieces.filter((p) => p !== undefined)
  if (all.length === 0) return { colourSpace: 'unstated', colourEvidence: [] }
  const bytes = new Uint8Array(all.reduce((sum, p) => sum + p.length, 0))
  let at = 0
  for (const piece of all) {
    bytes.set(piece, at)
    at += piece.length
  }
  return iccProfile(bytes)
}

function frame(body: Uint8Array, sizeBytes: number, colour: ColourTag): Outcome<TextureHeader> {
  const view = new DataView(body.buffer, body.byteOffset, body.byteLength)
  if (body.length < 6) return bad('image/truncated', 'The JPEG frame header is cut short.', hint)
  const height = view.getUint16(1),
    width = view.getUint16(3),
    components = view.getUint8(5)
  if (width === 0 || height === 0 || ![1, 3, 4].includes(components))
    return bad(
      'image/bad-structure',
      `The JPEG header makes no sense: ${width} × ${height}, ${components} components.`,
      hint,
      { part: 'SOF' },
    )
  // Four components are CMYK, decoded to RGB
  return good({
    format: 'jpeg',
    width,
    height,
    channels: components === 1 ? 1 : 3,
    depth: 8,
    palette: false,
    ...plainTexels,
    alpha: false,
    ...colour,
    sizeBytes,
  })
}
