import { bad, good, type ColourSpace, type Outcome, type TextureHeader } from '@stern-gate/contract'
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
  let colour: { colourSpace: ColourSpace; colourEvidence: string[] } = {
    colourSpace: 'unstated',
    colourEvidence: [],
  }
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
    if (marker === 0xe2 && text(body, 11) === 'ICC_PROFILE') colour = profile(body)
    if (isFrame(marker)) return frame(body, bytes.length, colour)
    if (marker === 0xda) break
    at += 2 + length
  }
  return bad('image/truncated', 'The JPEG ends before it says its size.', hint, { offset: bytes.length })
}

const text = (bytes: Uint8Array, length: number): string => String.fromCharCode(...bytes.subarray(0, length))

function profile(body: Uint8Array): { colourSpace: ColourSpace; colourEvidence: string[] } {
  const name = /sRGB|IEC61966/.exec(text(body, Math.min(body.length, 4096)))?.[0]
  return {
    colourSpace: name ? 'srgb' : 'other',
    colourEvidence: [name ? `ICC profile ${name}` : 'ICC profile'],
  }
}

function frame(
  body: Uint8Array,
  sizeBytes: number,
  colour: { colourSpace: ColourSpace; colourEvidence: string[] },
): Outcome<TextureHeader> {
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
