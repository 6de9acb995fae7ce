import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'

interface DdsFormat { name: string | null; channels: number; srgb: boolean | null }

const byFourCc: Record<string, DdsFormat> = {
  DXT1: { name: 'BC1', channels: 4, srgb: null }, DXT2: { name: 'BC2', channels: 4, srgb: null }, DXT3: { name: 'BC2', channels: 4, srgb: null }, DXT4: { name: 'BC3', channels: 4, srgb: null }, DXT5: { name: 'BC3', channels: 4, srgb: null },
  ATI1: { name: 'BC4', channels: 1, srgb: false }, BC4U: { name: 'BC4', channels: 1, srgb: false }, ATI2: { name: 'BC5', channels: 2, srgb: false }, BC5U: { name: 'BC5', channels: 2, srgb: false },
}
/** DXGI format numbers of the extended header. */
const byDxgi: Record<number, DdsFormat> = {
  28: { name: null, channels: 4, srgb: false }, 29: { name: null, channels: 4, srgb: true }, 87: { name: null, channels: 4, srgb: false }, 91: { name: null, channels: 4, srgb: true },
  71: { name: 'BC1', channels: 4, srgb: false }, 72: { name: 'BC1', channels: 4, srgb: true }, 74: { name: 'BC2', channels: 4, srgb: false }, 75: { name: 'BC2', channels: 4, srgb: true }, 77: { name: 'BC3', channels: 4, srgb: false }, 78: { name: 'BC3', channels: 4, srgb: true },
  80: { name: 'BC4', channels: 1, srgb: false }, 81: { name: 'BC4', channels: 1, srgb: false }, 83: { name: 'BC5', channels: 2, srgb: false }, 84: { name: 'BC5', channels: 2, srgb: false }, 95: { name: 'BC6H', channels: 3, srgb: false }, 96: { name: 'BC6H', channels: 3, srgb: false },
  98: { name: 'BC7', channels: 4, srgb: false }, 99: { name: 'BC7', channels: 4, srgb: true },
}

/** Reads what the header of a DDS says: size, levels, block format, colour space where it is stated. Faults: image/truncated, image/bad-structure. */
export function readDdsHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const hint = 'The picture is damaged; save or copy it again.'
  if (bytes.length < 128) return bad('image/truncated', 'The DDS ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const height = view.getUint32(12, true), width = view.getUint32(16, true), mips = Math.max(1, view.getUint32(28, true))
  if (width === 0 || height === 0 || mips > 16) return bad('image/bad-structure', `The DDS header makes no sense: ${width} × ${height}, ${mips} levels.`, hint, { part: 'header' })
  const fourCc = String.fromCharCode(...bytes.subarray(84, 88))
  const extended = fourCc === 'DX10'
  if (extended && bytes.length < 148) return bad('image/truncated', 'The DDS ends inside its extended header.', hint, { offset: bytes.length })
  const dxgi = extended ? view.getUint32(128, true) : 0
  const format = extended ? (byDxgi[dxgi] ?? { name: `DXGI format ${dxgi}`, channels: 4, srgb: null }) : (byFourCc[fourCc] ?? plainFormat(view))
  const alpha = format.channels === 4
  return good({
    format: 'dds', width, height, channels: format.channels, depth: 8, palette: false, alpha, mips, blockFormat: format.name, statedRole: null, decodes: false,
    colourSpace: format.srgb === null ? 'unstated' : format.srgb ? 'srgb' : 'linear', colourEvidence: format.srgb === null ? [] : [`DXGI format ${dxgi || fourCc}`], sizeBytes: bytes.length,
  })
}

/** Without a code the texels are plain; the flags say whether alpha is there, the bits how many channels. */
function plainFormat(view: DataView): DdsFormat {
  const alpha = (view.getUint32(80, true) & 1) !== 0, bits = view.getUint32(88, true)
  return { name: null, channels: alpha ? 4 : bits <= 8 ? 1 : 3, srgb: null }
}
