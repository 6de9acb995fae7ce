import { bad, good, type ColourSpace, type Outcome, type TextureHeader } from '@stern-gate/contract'

/** Khronos data format descriptor: colour models of Basis Universal, and transfer functions. */
const MODEL_ETC1S = 163
const MODEL_UASTC = 166
const TRANSFER_LINEAR = 1
const TRANSFER_SRGB = 2

const bcFormats: Record<number, [string, number]> = {
  131: ['BC1', 3], 132: ['BC1', 3], 133: ['BC1', 4], 134: ['BC1', 4], 135: ['BC2', 4], 136: ['BC2', 4], 137: ['BC3', 4], 138: ['BC3', 4], 139: ['BC4', 1], 140: ['BC4', 1], 141: ['BC5', 2], 142: ['BC5', 2],
  143: ['BC6H', 3], 144: ['BC6H', 3], 145: ['BC7', 4], 146: ['BC7', 4], 147: ['ETC2', 3], 148: ['ETC2', 3], 149: ['ETC2', 4], 150: ['ETC2', 4], 151: ['ETC2', 4], 152: ['ETC2', 4], 153: ['EAC', 1], 154: ['EAC', 1], 155: ['EAC', 2], 156: ['EAC', 2],
}
const astcBlocks = ['4×4', '5×4', '5×5', '6×5', '6×6', '8×5', '8×6', '8×8', '10×5', '10×6', '10×8', '10×10', '12×10', '12×12']
/** Vulkan format numbers of plain 8-bit texels by channels. */
const plainFormats: Record<number, number> = { 9: 1, 15: 1, 16: 2, 22: 2, 23: 3, 29: 3, 37: 4, 43: 4, 50: 4 }

/** Reads what the header of a KTX2 says: size, levels, block format, colour space. Faults: image/truncated, image/bad-structure. */
export function readKtx2Header(bytes: Uint8Array): Outcome<TextureHeader> {
  const hint = 'The picture is damaged; save or copy it again.'
  if (bytes.length < 80) return bad('image/truncated', 'The KTX2 ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const word = (at: number): number => view.getUint32(at, true)
  const vkFormat = word(12), width = word(20), height = Math.max(1, word(24)), levels = Math.max(1, word(40))
  if (width === 0 || levels > 16 || word(36) === 0) return bad('image/bad-structure', `The KTX2 header makes no sense: ${width} × ${height}, ${levels} levels.`, hint, { part: 'header' })
  const described = word(48), length = word(52)
  if (length < 28 || described + length > bytes.length) return bad('image/truncated', 'The data format descriptor of the KTX2 runs past the end of the file.', hint, { part: 'data format descriptor' })
  for (let level = 0; level < levels; level++) {
    const at = 80 + level * 24
    if (at + 24 > bytes.length || word(at) + word(at + 8) > bytes.length) return bad('image/truncated', `Level ${level} of the KTX2 runs past the end of the file.`, hint, { part: `level ${level}` })
  }
  const transfer = bytes[described + 14]!
  const format = formatOf(vkFormat, bytes[described + 12]!)
  const colourSpace: ColourSpace = transfer === TRANSFER_SRGB ? 'srgb' : transfer === TRANSFER_LINEAR ? 'linear' : 'other'
  return good({
    format: 'ktx2', width, height, channels: format.channels, depth: 8, palette: false, alpha: format.channels % 2 === 0 && format.channels > 2, mips: levels, blockFormat: format.name, statedRole: null, decodes: false,
    colourSpace, colourEvidence: [`data format descriptor: transfer ${transfer}`], sizeBytes: bytes.length,
  })
}

function formatOf(vkFormat: number, model: number): { name: string | null; channels: number } {
  if (vkFormat === 0) return { name: model === MODEL_ETC1S ? 'ETC1S' : model === MODEL_UASTC ? 'UASTC' : `model ${model}`, channels: 4 }
  const known = bcFormats[vkFormat]
  if (known) return { name: known[0], channels: known[1] }
  if (vkFormat >= 157 && vkFormat <= 184) return { name: `ASTC ${astcBlocks[(vkFormat - 157) >> 1]}`, channels: 4 }
  return plainFormats[vkFormat] ? { name: null, channels: plainFormats[vkFormat] } : { name: `Vulkan format ${vkFormat}`, channels: 4 }
}
