import { bad, good, type Outcome, type TextureHeader, formatWords } from '@stern-gate/contract'
import { cutFloats, halfValues } from '../../image/cutFloats'
import type { Pixels } from '../../image/pixels'
import { bc6hFormat } from './decodeBc6h'
import { bc7Format } from './decodeBc7'
import { bcFormats, signedBcFormats, type BlockFormat } from './decodeBc'

/**
 * How texels lie in a container: in blocks, as bit fields of one number each, as 16-bit channels one after
 * the other, or as floating-point ones of two or four bytes.
 */
export type TexelLayout =
  | { kind: 'blocks'; format: BlockFormat }
  | { kind: 'fields'; bytes: number; masks: readonly number[] }
  | { kind: 'words'; channels: number }
  | { kind: 'floats'; channels: number; bytes: 2 | 4 }

/** Block formats of the BC family that are decoded, by the names that containers give them here. */
export const decodedBlocks: Record<string, BlockFormat> = {
  ...bcFormats,
  ...signedBcFormats,
  BC6H: bc6hFormat('unsigned'),
  'BC6H signed': bc6hFormat('signed'),
  BC7: bc7Format,
}

/** Bits of a channel, as the header tells them. */
export function layoutDepth(layout: TexelLayout | undefined): 8 | 16 | 32 {
  const values = layout?.kind === 'blocks' ? layout.format.values : layout?.kind
  return values === 'floats' ? 32 : values === 'words' ? 16 : 8
}

/** Unpacks the largest level. `data` begins at its first byte. Faults: image/truncated. */
export function unpackTexels(
  data: Uint8Array,
  { width, height, format }: Pick<TextureHeader, 'width' | 'height' | 'format'>,
  layout: TexelLayout,
): Outcome<Pixels> {
  if (data.length < wantedBytes(width, height, layout))
    return bad(
      'image/truncated',
      `The ${formatWords(format)} ends inside its largest level.`,
      'The picture is damaged; save or copy it again.',
      { offset: data.length },
    )
  const floats = floatTexels(data, width, height, layout)
  if (floats) return good(cutFloats(width, height, floats.channels, floats.values))
  if (layout.kind === 'blocks')
    return good(
      unpackBlocks(data, width, height, layout.format as Exclude<BlockFormat, { values: 'floats' }>),
    )
  if (layout.kind === 'fields') return good(unpackFields(data, width, height, layout))
  const words = new Uint16Array(width * height * layout.channels)
  for (let k = 0; k < words.length; k++) words[k] = data[k * 2]! | (data[k * 2 + 1]! << 8)
  return good({ width, height, channels: layout.channels, depth: 16, data: words })
}

/** Bytes of a level of this size. */
const wantedBytes = (width: number, height: number, layout: TexelLayout): number =>
  layout.kind === 'blocks'
    ? Math.ceil(width / layout.format.width) * Math.ceil(height / layout.format.height) * layout.format.bytes
    : width *
      height *
      (layout.kind === 'fields'
        ? layout.bytes
        : layout.channels * (layout.kind === 'floats' ? layout.bytes : 2))

/**
 * Texels of floating point as they are, channel by channel, rows as they lie; null where they are of another kind, or
 * the bytes do not suffice.
 */
export function floatTexels(
  data: Uint8Array,
  width: number,
  height: number,
  layout: TexelLayout,
): { channels: number; values: Float32Array } | null {
  if (data.length < wantedBytes(width, height, layout)) return null
  if (layout.kind === 'blocks') {
    const { format } = layout,
      { channels } = format
    if (format.values !== 'floats') return null
    const values = new Float32Array(width * height * channels)
    eachBlock(
      data,
      width,
      height,
      format,
      values,
      new Float32Array(format.width * format.height * channels),
      format.decode,
    )
    return { channels, values }
  }
  return layout.kind === 'floats'
    ? { channels: layout.channels, values: unpackFloats(data, width, height, layout) }
    : null
}

function unpackBlocks(
  data: Uint8Array,
  width: number,
  height: number,
  format: Exclude<BlockFormat, { values: 'floats' }>,
): Pixels {
  const { channels } = format,
    size = width * height * channels,
    texels = format.width * format.height * channels
  if (format.values === 'bytes') {
    const out = new Uint8Array(size),
      block = new Uint8Array(texels)
    // Four bytes go over at once
    if (channels === 4)
      eachBlock(
        data,
        width,
        height,
        { ...format, channels: 1 },
        new Uint32Array(out.buffer),
        new Uint32Array(block.buffer),
        (bytes, at) => format.decode(bytes, at, block),
      )
    else eachBlock(data, width, height, format, out, block, format.decode)
    return { width, height, channels, depth: 8, data: out }
  }
  const out = new Uint16Array(size)
  eachBlock(data, width, height, format, out, new Uint16Array(texels), format.decode)
  return { width, height, channels, depth: 16, data: out }
}

/** Decodes block by block and puts each where it stands; what stands over the edge is cut. */
function eachBlock<Values extends Uint8Array | Uint16Array | Uint32Array | Float32Array>(
  data: Uint8Array,
  width: number,
  height: number,
  format: Pick<BlockFormat, 'width' | 'height' | 'bytes' | 'channels'>,
  out: Values,
  block: Values,
  decode: (bytes: Uint8Array, at: number, out: Values) => void,
): void {
  const { channels } = format,
    across = Math.ceil(width / format.width)
  for (let by = 0; by * format.height < height; by++)
    for (let bx = 0; bx < across; bx++) {
      decode(data, (by * across + bx) * format.bytes, block)
      const left = bx * format.width,
        top = by * format.height,
        numbers = Math.min(format.width, width - left) * channels
      for (let y = 0; y < format.height && top + y < height; y++) {
        const from = y * format.width * channels,
          to = ((top + y) * width + left) * channels
        for (let k = 0; k < numbers; k++) out[to + k] = block[from + k]!
      }
    }
}

function unpackFloats(
  data: Uint8Array,
  width: number,
  height: number,
  { channels, bytes }: Extract<TexelLayout, { kind: 'floats' }>,
): Float32Array {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength),
    values = new Float32Array(width * height * channels),
    halves = halfValues()
  for (let k = 0; k < values.length; k++)
    values[k] = bytes === 4 ? view.getFloat32(k * 4, true) : halves[view.getUint16(k * 2, true)]!
  return values
}

/** Each field is spread over 0 … 255; a field without bits is left out. */
function unpackFields(
  data: Uint8Array,
  width: number,
  height: number,
  { bytes, masks }: Extract<TexelLayout, { kind: 'fields' }>,
): Pixels {
  const fields = masks.map((mask) => ({
    shift: 31 - Math.clz32(mask & -mask),
    most: mask >>> (31 - Math.clz32(mask & -mask)),
  }))
  const channels = fields.length,
    out = new Uint8Array(width * height * channels)
  for (let t = 0; t < width * height; t++) {
    let value = 0
    for (let b = 0; b < bytes; b++) value |= data[t * bytes + b]! << (b * 8)
    for (let c = 0; c < channels; c++) {
      const { shift, most } = fields[c]!
      const field = (value >>> shift) & most
      out[t * channels + c] = most === 255 ? field : Math.round((field * 255) / most)
    }
  }
  return { width, height, channels, depth: 8, data: out }
}

const BYTE_MASKS = [0xff, 0xff00, 0xff0000, 0xff000000 | 0]

/** Texels of one byte a channel, in the order red, green, blue, alpha, or with blue first. */
export const byteLayout = (channels: number, order: 'rgb' | 'bgr' = 'rgb'): TexelLayout => ({
  kind: 'fields',
  bytes: channels,
  masks: (order === 'rgb' ? [0, 1, 2, 3] : [2, 1, 0, 3]).slice(0, channels).map((k) => BYTE_MASKS[k]!),
})
