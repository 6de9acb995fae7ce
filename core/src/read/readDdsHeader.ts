import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { byteLayout, decodedBlocks, layoutDepth, type TexelLayout } from './blocks/storedTexels'

interface DdsFormat {
  name: string | null
  channels: number
  srgb: boolean | null
  /** Null: blocks, or not decoded. */ layout?: TexelLayout
}

const byFourCc: Record<string, DdsFormat> = {
  DXT1: { name: 'BC1', channels: 4, srgb: null },
  DXT2: { name: 'BC2', channels: 4, srgb: null },
  DXT3: { name: 'BC2', channels: 4, srgb: null },
  DXT4: { name: 'BC3', channels: 4, srgb: null },
  DXT5: { name: 'BC3', channels: 4, srgb: null },
  ATI1: { name: 'BC4', channels: 1, srgb: false },
  BC4U: { name: 'BC4', channels: 1, srgb: false },
  ATI2: { name: 'BC5', channels: 2, srgb: false },
  BC5U: { name: 'BC5', channels: 2, srgb: false },
  BC4S: { name: 'BC4 signed', channels: 1, srgb: false },
  BC5S: { name: 'BC5 signed', channels: 2, srgb: false },
}
/** Numbers that stand where the code would: floating-point texels, and 16-bit ones of four channels. */
const byNumber: Record<number, DdsFormat> = {
  36: { name: null, channels: 4, srgb: false, layout: { kind: 'words', channels: 4 } },
  ...floats([
    [111, 1, 2],
    [112, 2, 2],
    [113, 4, 2],
    [114, 1, 4],
    [115, 2, 4],
    [116, 4, 4],
  ]),
}

function floats(formats: readonly (readonly [number, number, 2 | 4])[]): Record<number, DdsFormat> {
  return Object.fromEntries(
    formats.map(([number, channels, bytes]) => [
      number,
      { name: null, channels, srgb: false, layout: { kind: 'floats', channels, bytes } },
    ]),
  )
}

/** DXGI format numbers of the extended header. */
const byDxgi: Record<number, DdsFormat> = {
  28: { name: null, channels: 4, srgb: false, layout: byteLayout(4) },
  29: { name: null, channels: 4, srgb: true, layout: byteLayout(4) },
  87: { name: null, channels: 4, srgb: false, layout: byteLayout(4, 'bgr') },
  91: { name: null, channels: 4, srgb: true, layout: byteLayout(4, 'bgr') },
  11: { name: null, channels: 4, srgb: false, layout: { kind: 'words', channels: 4 } },
  35: { name: null, channels: 2, srgb: false, layout: { kind: 'words', channels: 2 } },
  49: { name: null, channels: 2, srgb: false, layout: byteLayout(2) },
  56: { name: null, channels: 1, srgb: false, layout: { kind: 'words', channels: 1 } },
  61: { name: null, channels: 1, srgb: false, layout: byteLayout(1) },
  ...floats([
    [2, 4, 4],
    [6, 3, 4],
    [10, 4, 2],
    [16, 2, 4],
    [34, 2, 2],
    [41, 1, 4],
    [54, 1, 2],
  ]),
  71: { name: 'BC1', channels: 4, srgb: false },
  72: { name: 'BC1', channels: 4, srgb: true },
  74: { name: 'BC2', channels: 4, srgb: false },
  75: { name: 'BC2', channels: 4, srgb: true },
  77: { name: 'BC3', channels: 4, srgb: false },
  78: { name: 'BC3', channels: 4, srgb: true },
  80: { name: 'BC4', channels: 1, srgb: false },
  81: { name: 'BC4 signed', channels: 1, srgb: false },
  83: { name: 'BC5', channels: 2, srgb: false },
  84: { name: 'BC5 signed', channels: 2, srgb: false },
  95: { name: 'BC6H', channels: 3, srgb: false },
  96: { name: 'BC6H signed', channels: 3, srgb: false },
  98: { name: 'BC7', channels: 4, srgb: false },
  99: { name: 'BC7', channels: 4, srgb: true },
}

/** How the texels of a DDS lie, and from which byte on; null where they are not decoded. */
export function ddsTexels(bytes: Uint8Array): { layout: TexelLayout; from: number } | null {
  const { format, from } = formatOf(bytes)
  const block = decodedBlocks[format.name ?? '']
  const layout: TexelLayout | undefined = block ? { kind: 'blocks', format: block } : format.layout
  return layout ? { layout, from } : null
}

function formatOf(bytes: Uint8Array): { format: DdsFormat; dxgi: number; fourCc: string; from: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const fourCc = String.fromCharCode(...bytes.subarray(84, 88)),
    extended = fourCc === 'DX10' && bytes.length >= 148
  const dxgi = extended ? view.getUint32(128, true) : 0
  return {
    format: extended
      ? (byDxgi[dxgi] ?? { name: `DXGI format ${dxgi}`, channels: 4, srgb: null })
      : (byFourCc[fourCc] ?? byNumber[view.getUint32(84, true)] ?? plainFormat(view)),
    dxgi,
    fourCc,
    from: extended ? 148 : 128,
  }
}

/**
 * Reads what the header of a DDS says: size, levels, block format, colour space where it is stated. Faults:
 * image/truncated, image/bad-structure.
 */
export function readDdsHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const hint = 'The picture is damaged; save or copy it again.'
  if (bytes.length < 128)
    return bad('image/truncated', 'The DDS ends inside its header.', hint, { offset: bytes.length })
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const height = view.getUint32(12, true),
    width = view.getUint32(16, true),
    mips = Math.max(1, view.getUint32(28, true))
  if (width === 0 || height === 0 || mips > 16)
    return bad(
      'image/bad-structure',
      `The DDS header makes no sense: ${width} × ${height}, ${mips} levels.`,
      hint,
      { part: 'header' },
    )
  const { format, dxgi, fourCc } = formatOf(bytes)
  if (fourCc === 'DX10' && bytes.length < 148)
    return bad('image/truncated', 'The DDS ends inside its extended header.', hint, { offset: bytes.length })
  const alpha = format.channels === 4
  return good({
    format: 'dds',
    width,
    height,
    channels: format.channels,
    depth: layoutDepth(ddsTexels(bytes)?.layout),
    palette: false,
    alpha,
    mips,
    blockFormat: format.name,
    statedRole: null,
    decodes: ddsTexels(bytes) !== null,
    colourSpace: format.srgb === null ? 'unstated' : format.srgb ? 'srgb' : 'linear',
    colourEvidence: format.srgb === null ? [] : [`DXGI format ${dxgi || fourCc}`],
    sizeBytes: bytes.length,
  })
}

const HAS_ALPHA = 1
const IS_GREY = 0x20000

/** Without a code the texels are plain: masks say which bits belong to which channel. */
function plainFormat(view: DataView): DdsFormat {
  const flags = view.getUint32(80, true),
    bytes = Math.ceil(view.getUint32(88, true) / 8)
  const [r, g, b, a] = [92, 96, 100, 104].map((at) => view.getUint32(at, true)) as [
    number,
    number,
    number,
    number,
  ]
  const alpha = (flags & HAS_ALPHA) !== 0 && a !== 0,
    grey = (flags & IS_GREY) !== 0 || (g === 0 && b === 0)
  const masks = [...(grey ? [r] : [r, g, b]), ...(alpha ? [a] : [])]
  const known = bytes >= 1 && bytes <= 4 && masks.every((m) => m !== 0)
  return {
    name: null,
    channels: masks.length,
    srgb: null,
    ...(known ? { layout: { kind: 'fields' as const, bytes, masks } } : {}),
  }
}
