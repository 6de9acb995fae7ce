import { bad, good, type ColourSpace, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { astcFormat, astcSizes } from './blocks/decodeAstc'
import type { BlockFormat } from './blocks/decodeBc'
import { etcFormats } from './blocks/decodeEtc2'
import { byteLayout, decodedBlocks, layoutDepth, type TexelLayout } from './blocks/storedTexels'

/** Khronos data format descriptor: colour models of Basis Universal, and transfer functions. */
const MODEL_ETC1S = 163
const MODEL_UASTC = 166
const UASTC_RGB = 0
const TRANSFER_LINEAR = 1
const TRANSFER_SRGB = 2

const bcFormats: Record<number, [string, number]> = {
  131: ['BC1', 3],
  132: ['BC1', 3],
  133: ['BC1', 4],
  134: ['BC1', 4],
  135: ['BC2', 4],
  136: ['BC2', 4],
  137: ['BC3', 4],
  138: ['BC3', 4],
  139: ['BC4', 1],
  140: ['BC4 signed', 1],
  141: ['BC5', 2],
  142: ['BC5 signed', 2],
  143: ['BC6H', 3],
  144: ['BC6H signed', 3],
  145: ['BC7', 4],
  146: ['BC7', 4],
  147: ['ETC2', 3],
  148: ['ETC2', 3],
  149: ['ETC2', 4],
  150: ['ETC2', 4],
  151: ['ETC2', 4],
  152: ['ETC2', 4],
  153: ['EAC', 1],
  154: ['EAC signed', 1],
  155: ['EAC', 2],
  156: ['EAC signed', 2],
}
/** ASTC takes these numbers, two to a block size: linear and sRGB. */
const FIRST_ASTC = 157
const LAST_ASTC = 184
const isAstc = (vkFormat: number): boolean => vkFormat >= FIRST_ASTC && vkFormat <= LAST_ASTC
const astcSize = (vkFormat: number): readonly [number, number] => astcSizes[(vkFormat - FIRST_ASTC) >> 1]!
/** Of one name in the table above there are several layouts. */
const etcLayouts: Record<number, BlockFormat> = {
  147: etcFormats.RGB,
  148: etcFormats.RGB,
  149: etcFormats.RGBA1,
  150: etcFormats.RGBA1,
  151: etcFormats.RGBA,
  152: etcFormats.RGBA,
  153: etcFormats.R11,
  154: etcFormats['R11 signed'],
  155: etcFormats.RG11,
  156: etcFormats['RG11 signed'],
}
/** Vulkan format numbers of plain texels. */
const plainFormats: Record<number, { channels: number; layout: TexelLayout }> = {
  ...Object.fromEntries(
    [
      [9, 1],
      [15, 1],
      [16, 2],
      [22, 2],
      [23, 3],
      [29, 3],
      [37, 4],
      [43, 4],
    ].map(([format, channels]) => [format!, { channels: channels!, layout: byteLayout(channels!) }]),
  ),
  ...Object.fromEntries(
    [
      [30, 3],
      [36, 3],
      [44, 4],
      [50, 4],
    ].map(([format, channels]) => [format!, { channels: channels!, layout: byteLayout(channels!, 'bgr') }]),
  ),
  ...Object.fromEntries(
    [
      [70, 1],
      [77, 2],
      [84, 3],
      [91, 4],
    ].map(([format, channels]) => [
      format!,
      { channels: channels!, layout: { kind: 'words' as const, channels: channels! } },
    ]),
  ),
}
/** The same of floating-point texels, in two bytes and in four. */
const floatFormats: Record<number, { channels: number; layout: TexelLayout }> = Object.fromEntries(
  (
    [
      [76, 1, 2],
      [83, 2, 2],
      [90, 3, 2],
      [97, 4, 2],
      [100, 1, 4],
      [103, 2, 4],
      [106, 3, 4],
      [109, 4, 4],
    ] as const
  ).map(([format, channels, bytes]) => [
    format,
    { channels, layout: { kind: 'floats' as const, channels, bytes } },
  ]),
)
const plainOf = (vkFormat: number): { channels: number; layout: TexelLayout } | undefined =>
  plainFormats[vkFormat] ?? floatFormats[vkFormat]

/** Ways in which a level is packed once more. */
export const ktx2Packing = ['none', 'basis', 'zstd', 'zlib'] as const
/**
 * Where the largest level lies, how it is packed, and how its texels lie: `basis` where a transcoder must
 * read the whole file. Null where they are not decoded.
 */
export interface Ktx2Texels {
  from: number
  to: number
  packing: (typeof ktx2Packing)[number]
  layout: TexelLayout | 'basis'
}

export function ktx2Texels(bytes: Uint8Array): Ktx2Texels | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const vkFormat = view.getUint32(12, true),
    packing = ktx2Packing[view.getUint32(44, true)],
    from = view.getUint32(80, true),
    to = from + view.getUint32(88, true)
  if (!packing) return null
  if (vkFormat === 0) {
    const model = bytes[view.getUint32(48, true) + 12]
    return model === MODEL_ETC1S || model === MODEL_UASTC ? { from, to, packing, layout: 'basis' } : null
  }
  const block = isAstc(vkFormat)
    ? astcFormat(...astcSize(vkFormat), (vkFormat - FIRST_ASTC) % 2 === 1)
    : (etcLayouts[vkFormat] ?? decodedBlocks[bcFormats[vkFormat]?.[0] ?? ''])
  const layout = block ? { kind: 'blocks' as const, format: block } : plainOf(vkFormat)?.layout
  return layout && packing !== 'basis' ? { from, to, packing, layout } : null
}

/**
 * Reads what the header of a KTX2 says: size, levels, block format, colour space. Faults: image/truncated,
 * image/bad-structure.
 */
export function readKtx2Header(bytes: Uint8Array): Outcome<TextureHeader> {
  const hint = 'The picture is damaged; save or copy it again.'
  if (bytes.length < 80)
    return bad('image/truncated', 'The KTX2 ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const word = (at: number): number => view.getUint32(at, true)
  const vkFormat = word(12),
    width = word(20),
    height = Math.max(1, word(24)),
    levels = Math.max(1, word(40))
  if (width === 0 || levels > 16 || word(36) === 0)
    return bad(
      'image/bad-structure',
      `The KTX2 header makes no sense: ${width} × ${height}, ${levels} levels.`,
      hint,
      { part: 'header' },
    )
  const described = word(48),
    length = word(52)
  if (length < 28 || described + length > bytes.length)
    return bad(
      'image/truncated',
      'The data format descriptor of the KTX2 runs past the end of the file.',
      hint,
      { part: 'data format descriptor' },
    )
  for (let level = 0; level < levels; level++) {
    const at = 80 + level * 24
    if (at + 24 > bytes.length || word(at) + word(at + 8) > bytes.length)
      return bad('image/truncated', `Level ${level} of the KTX2 runs past the end of the file.`, hint, {
        part: `level ${level}`,
      })
  }
  const transfer = bytes[described + 14]!,
    texels = ktx2Texels(bytes)
  const format = formatOf(
    vkFormat,
    bytes[described + 12]!,
    length >= 44 ? { type: bytes[described + 31]! & 15, count: Math.floor((length - 28) / 16) } : null,
  )
  const colourSpace: ColourSpace =
    transfer === TRANSFER_SRGB ? 'srgb' : transfer === TRANSFER_LINEAR ? 'linear' : 'other'
  return good({
    format: 'ktx2',
    width,
    height,
    channels: format.channels,
    depth: texels && texels.layout !== 'basis' ? layoutDepth(texels.layout) : 8,
    palette: false,
    alpha: format.channels % 2 === 0 && format.channels > 2,
    mips: levels,
    blockFormat: format.name,
    statedRole: null,
    decodes: texels !== null,
    colourSpace,
    colourEvidence: [`data format descriptor: transfer ${transfer}`],
    sizeBytes: bytes.length,
  })
}

/** `samples`: the channel type of the first one, and how many there are. */
function formatOf(
  vkFormat: number,
  model: number,
  samples: { type: number; count: number } | null,
): { name: string | null; channels: number } {
  if (vkFormat === 0)
    return {
      name: model === MODEL_ETC1S ? 'ETC1S' : model === MODEL_UASTC ? 'UASTC' : `model ${model}`,
      channels:
        samples &&
        (model === MODEL_ETC1S ? samples.count === 1 : model === MODEL_UASTC && samples.type === UASTC_RGB)
          ? 3
          : 4,
    }
  const known = bcFormats[vkFormat]
  if (known) return { name: known[0], channels: known[1] }
  if (isAstc(vkFormat)) return { name: `ASTC ${astcSize(vkFormat).join('×')}`, channels: 4 }
  const plain = plainOf(vkFormat)
  return plain ? { name: null, channels: plain.channels } : { name: `Vulkan format ${vkFormat}`, channels: 4 }
}
