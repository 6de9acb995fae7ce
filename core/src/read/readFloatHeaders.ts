import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { checkExrChunks } from './checkExrChunks'
import { plainTexels } from './plainTexels'

const hint = 'The picture is damaged; save or copy it again.'
/** Values of these formats are light, not stored colour. */
const float = { ...plainTexels, depth: 32, palette: false, colourSpace: 'linear' } as const

/**
 * Reads the attributes of an OpenEXR file – channels, data window, how it is packed – and walks over its
 * blocks. Faults: image/truncated, image/bad-structure.
 */
export function readExrHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const found = exrAttributes(bytes)
  if (!found) return bad('image/truncated', 'The EXR ends inside its header.', hint, { offset: bytes.length })
  const { attributes, end } = found
  const window = attributes.get('dataWindow'),
    channels = channelsOf(attributes.get('channels'))
  const [left, top, right, bottom] =
    window?.byteLength === 16
      ? ([0, 4, 8, 12].map((k) => window.getInt32(k, true)) as [number, number, number, number])
      : [0, 0, -1, -1]
  const width = right - left + 1,
    height = bottom - top + 1
  if (width < 1 || height < 1 || channels.length === 0)
    return bad('image/bad-structure', 'The EXR does not say its size and channels.', hint, { part: 'header' })
  const flags = bytes[5]!,
    tiles = attributes.get('tiles'),
    tiled = (flags & TILED) !== 0
  if (tiled && (tiles?.byteLength !== 9 || tiles.getUint32(0, true) < 1 || tiles.getUint32(4, true) < 1))
    return bad('image/bad-structure', 'The EXR is made of tiles and does not say their size.', hint, {
      part: 'tiles',
    })
  const fault = checkExrChunks(bytes, end, {
    width,
    height,
    top,
    compression: attributes.get('compression')?.getUint8(0) ?? 0,
    plain: (flags & (DEEP | PARTS)) === 0,
    bytesPerTexel: channels.reduce((sum, c) => sum + (c.type === HALF ? 2 : 4), 0),
    tile: tiled
      ? {
          width: tiles!.getUint32(0, true),
          height: tiles!.getUint32(4, true),
          levels: (tiles!.getUint8(8) & 15) !== 0,
        }
      : null,
  })
  // What no reader here knows is not damaged: its header stands, its texels are not read
  const unread =
    (flags & (DEEP | PARTS)) !== 0 ||
    channels.some((c) => c.subsampled) ||
    (tiled && (tiles!.getUint8(8) & 15) === RIPMAP) ||
    isOldDwa(bytes, end, attributes.get('compression')?.getUint8(0) ?? 0, height)
  if (fault && !unread) return fault
  const colour = channels.some(({ name }) => /(^|\.)[RGB]$/.test(name)) ? 3 : 1,
    alpha = channels.some(({ name }) => /(^|\.)A$/.test(name))
  return good({
    format: 'exr',
    width,
    height,
    channels: colour + (alpha ? 1 : 0),
    alpha,
    ...float,
    decodes: !unread,
    colourEvidence: ['OpenEXR'],
    sizeBytes: bytes.length,
  })
}

/** Blocks of DWAA (32 rows) and DWAB (256) of the first version are packed otherwise than those of the second. */
function isOldDwa(bytes: Uint8Array, from: number, compression: number, height: number): boolean {
  const rows = ({ 8: 32, 9: 256 } as Record<number, number>)[compression]
  if (rows === undefined) return false
  const first = from + Math.ceil(height / rows) * 8 + 8
  return first + 8 <= bytes.length && bytes[first]! < 2
}

/** How levels of tiles are made: 0 one level, 1 by halves, 2 by width and height apart. */
const RIPMAP = 2

/** Flags in the second byte of the version. */
const TILED = 2,
  DEEP = 8,
  PARTS = 16
/** Pixel type of a channel: 0 whole numbers, 1 half, 2 float. */
const HALF = 1

/** Attributes by name, and where the header ends; of several parts the first. Null where it breaks off. */
function exrAttributes(bytes: Uint8Array): { attributes: Map<string, DataView>; end: number } | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
    attributes = new Map<string, DataView>()
  let at = 8
  const text = (): string | null => {
    const end = bytes.indexOf(0, at)
    if (end < 0 || end - at > 255) return null
    const word = String.fromCharCode(...bytes.subarray(at, end))
    at = end + 1
    return word
  }
  for (;;) {
    const name = text()
    if (name === '') return { attributes, end: at }
    const type = name === null ? null : text(),
      size = type !== null && at + 4 <= bytes.length ? view.getInt32(at, true) : -1
    at += 4
    if (name === null || size < 0 || at + size > bytes.length) return null
    attributes.set(name, new DataView(bytes.buffer, bytes.byteOffset + at, size))
    at += size
  }
}

interface ExrChannel {
  name: string
  type: number
  /** It has a texel for several of the picture's. */
  subsampled: boolean
}

/**
 * Each: a name that ends with 0, then 16 bytes: its type, four that say nothing here, and how many texels of the
 * picture it has one for, across and down. A 0 ends the list.
 * Empty where it is broken.
 */
function channelsOf(list: DataView | undefined): ExrChannel[] {
  const channels: ExrChannel[] = []
  if (!list) return channels
  const bytes = new Uint8Array(list.buffer, list.byteOffset, list.byteLength)
  for (let at = 0; at < bytes.length && bytes[at] !== 0;) {
    const end = bytes.indexOf(0, at)
    if (end < 0 || end + 17 > bytes.length) return []
    channels.push({
      name: String.fromCharCode(...bytes.subarray(at, end)),
      type: list.getUint32(end + 1, true),
      subsampled: list.getUint32(end + 9, true) > 1 || list.getUint32(end + 13, true) > 1,
    })
    at = end + 17
  }
  return channels
}

/** Reads the head of a Radiance picture. Faults: image/truncated, image/bad-structure. */
export function readHdrHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 8192)),
    gap = /\n\r?\n/.exec(text)
  if (!gap)
    return bad('image/truncated', 'The head of the picture does not end.', hint, {
      offset: Math.min(bytes.length, 8192),
    })
  const size = /^[-+]([YX]) (\d+) [-+]([YX]) (\d+)\n/.exec(text.slice(gap.index + gap[0].length))
  const [first, second] = [Number(size?.[2] ?? 0), Number(size?.[4] ?? 0)]
  if (first < 1 || second < 1)
    return bad('image/bad-structure', 'The picture does not say its size.', hint, { part: 'resolution' })
  const upright = size![1] === 'Y'
  return good({
    format: 'hdr',
    width: upright ? second : first,
    height: upright ? first : second,
    channels: 3,
    alpha: false,
    ...float,
    colourEvidence: ['Radiance'],
    sizeBytes: bytes.length,
  })
}
