import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { plainTexels } from './plainTexels'

const hint = 'The picture is damaged; save or copy it again.'
/** Values of these formats are light, not stored colour. */
const float = { ...plainTexels, depth: 32, palette: false, colourSpace: 'linear' } as const

/** Reads the attributes of an OpenEXR file: channels and data window. Faults: image/truncated, image/bad-structure. */
export function readExrHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 8, width = 0, height = 0, names: string[] = []
  const text = (): string | null => {
    const end = bytes.indexOf(0, at)
    if (end < 0 || end - at > 255) return null
    const word = String.fromCharCode(...bytes.subarray(at, end))
    at = end + 1
    return word
  }
  for (;;) {
    const name = text()
    if (name === '') break
    const type = name === null ? null : text(), size = type !== null && at + 4 <= bytes.length ? view.getInt32(at, true) : -1
    at += 4
    if (size < 0 || at + size > bytes.length) return bad('image/truncated', 'The EXR ends inside its header.', hint, { offset: bytes.length })
    if (name === 'dataWindow' && size === 16) [width, height] = [view.getInt32(at + 8, true) - view.getInt32(at, true) + 1, view.getInt32(at + 12, true) - view.getInt32(at + 4, true) + 1]
    if (type === 'chlist') names = channelNames(bytes.subarray(at, at + size))
    at += size
  }
  if (width < 1 || height < 1 || names.length === 0) return bad('image/bad-structure', 'The EXR does not say its size and channels.', hint, { part: 'header' })
  const colour = names.some((n) => /(^|\.)[RGB]$/.test(n)) ? 3 : 1, alpha = names.some((n) => /(^|\.)A$/.test(n))
  return good({ format: 'exr', width, height, channels: colour + (alpha ? 1 : 0), alpha, ...float, colourEvidence: ['OpenEXR'], sizeBytes: bytes.length })
}

/** Each: a name that ends with 0, then 16 bytes. */
function channelNames(list: Uint8Array): string[] {
  const names: string[] = []
  for (let at = 0; at < list.length && list[at] !== 0; ) {
    const end = list.indexOf(0, at)
    if (end < 0) break
    names.push(String.fromCharCode(...list.subarray(at, end)))
    at = end + 17
  }
  return names
}

/** Reads the head of a Radiance picture. Faults: image/truncated, image/bad-structure. */
export function readHdrHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 8192)), gap = /\n\r?\n/.exec(text)
  if (!gap) return bad('image/truncated', 'The head of the picture does not end.', hint, { offset: Math.min(bytes.length, 8192) })
  const size = /^[-+]([YX]) (\d+) [-+]([YX]) (\d+)\n/.exec(text.slice(gap.index + gap[0].length))
  const [first, second] = [Number(size?.[2] ?? 0), Number(size?.[4] ?? 0)]
  if (first < 1 || second < 1) return bad('image/bad-structure', 'The picture does not say its size.', hint, { part: 'resolution' })
  const upright = size![1] === 'Y'
  return good({ format: 'hdr', width: upright ? second : first, height: upright ? first : second, channels: 3, alpha: false, ...float, colourEvidence: ['Radiance'], sizeBytes: bytes.length })
}
