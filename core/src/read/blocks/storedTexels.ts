import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import type { Pixels } from '../../image/pixels'
import { bc7Format } from './decodeBc7'
import { bcFormats, type BlockFormat } from './decodeBc'

/** How texels lie in a container: in blocks, as bit fields of one number each, or as 16-bit channels one after the other. */
export type TexelLayout = { kind: 'blocks'; format: BlockFormat } | { kind: 'fields'; bytes: number; masks: readonly number[] } | { kind: 'words'; channels: number }

/** Block formats that are decoded. */
export const decodedBlocks: Record<string, BlockFormat> = { ...bcFormats, BC7: bc7Format }

/** Unpacks the largest level. `data` begins at its first byte. Faults: image/truncated. */
export function unpackTexels(data: Uint8Array, { width, height, format }: Pick<TextureHeader, 'width' | 'height' | 'format'>, layout: TexelLayout): Outcome<Pixels> {
  const wanted = layout.kind === 'blocks' ? Math.ceil(width / 4) * Math.ceil(height / 4) * layout.format.bytes : width * height * (layout.kind === 'fields' ? layout.bytes : layout.channels * 2)
  if (data.length < wanted) return bad('image/truncated', `The ${format.toUpperCase()} ends inside its largest level.`, 'The picture is damaged; save or copy it again.', { offset: data.length })
  if (layout.kind === 'blocks') return good(unpackBlocks(data, width, height, layout.format))
  if (layout.kind === 'fields') return good(unpackFields(data, width, height, layout))
  const words = new Uint16Array(width * height * layout.channels)
  for (let k = 0; k < words.length; k++) words[k] = data[k * 2]! | (data[k * 2 + 1]! << 8)
  return good({ width, height, channels: layout.channels, depth: 16, data: words })
}

function unpackBlocks(data: Uint8Array, width: number, height: number, { bytes, channels, decode }: BlockFormat): Pixels {
  const out = new Uint8Array(width * height * channels), block = new Uint8Array(16 * channels), across = Math.ceil(width / 4)
  for (let by = 0; by * 4 < height; by++)
    for (let bx = 0; bx < across; bx++) {
      decode(data, (by * across + bx) * bytes, block)
      const columns = Math.min(4, width - bx * 4)
      for (let y = 0; y < 4 && by * 4 + y < height; y++) out.set(block.subarray(y * 4 * channels, (y * 4 + columns) * channels), ((by * 4 + y) * width + bx * 4) * channels)
    }
  return { width, height, channels, depth: 8, data: out }
}

/** Each field is spread over 0 … 255; a field without bits is left out. */
function unpackFields(data: Uint8Array, width: number, height: number, { bytes, masks }: Extract<TexelLayout, { kind: 'fields' }>): Pixels {
  const fields = masks.map((mask) => ({ shift: 31 - Math.clz32(mask & -mask), most: mask >>> (31 - Math.clz32(mask & -mask)) }))
  const channels = fields.length, out = new Uint8Array(width * height * channels)
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
export const byteLayout = (channels: number, order: 'rgb' | 'bgr' = 'rgb'): TexelLayout =>
  ({ kind: 'fields', bytes: channels, masks: (order === 'rgb' ? [0, 1, 2, 3] : [2, 1, 0, 3]).slice(0, channels).map((k) => BYTE_MASKS[k]!) })
