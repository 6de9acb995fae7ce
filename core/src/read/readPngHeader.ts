import { unzlibSync } from 'fflate'
import { bad, good, type ColourSpace, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { iccProfile } from './iccProfile'
import { plainTexels } from './plainTexels'

/** One chunk of a PNG: where it begins in the file, and how many bytes its data have. */
export interface PngChunk {
  type: string
  offset: number
  length: number
}

/** The data of a chunk, where they stand. */
export const chunkData = (bytes: Uint8Array, { offset, length }: PngChunk): Uint8Array =>
  bytes.subarray(offset + 8, offset + 8 + length)

const channelsOf: Record<number, number> = { 0: 1, 2: 3, 3: 3, 4: 2, 6: 4 }
/** gAMA of 1/2.2 and of sRGB's own approximation, in hundred-thousandths. */
const SRGB_GAMMA = [45455, 45454]
const hint = 'The picture is damaged; save or copy it again.'

/** Four letters as one number: nearly all are of this kind. */
const IDAT = 0x49444154

/** Null for what is not four letters. */
function chunkType(letters: number): string | null {
  if (letters === IDAT) return 'IDAT'
  const type = String.fromCharCode(
    letters >>> 24,
    (letters >>> 16) & 255,
    (letters >>> 8) & 255,
    letters & 255,
  )
  return /^[A-Za-z]{4}$/.test(type) ? type : null
}

/** Lists the chunks of a PNG in order. Faults: image/truncated, image/bad-structure. */
export function pngChunks(bytes: Uint8Array): Outcome<PngChunk[]> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const chunks: PngChunk[] = []
  for (let at = 8; at < bytes.length;) {
    if (at + 12 > bytes.length)
      return bad('image/truncated', `The PNG ends inside a chunk at byte ${at}.`, hint, { offset: at })
    const length = view.getUint32(at)
    const type = chunkType(view.getUint32(at + 4))
    if (type === null)
      return bad('image/bad-structure', `At byte ${at} stands something that is no PNG chunk.`, hint, {
        offset: at,
      })
    if (at + 12 + length > bytes.length)
      return bad('image/truncated', `Chunk ${type} of ${length} bytes runs past the end of the file.`, hint, {
        offset: at,
        part: type,
      })
    chunks.push({ type, offset: at, length })
    at += 12 + length
    if (type === 'IEND') return good(chunks)
  }
  return bad('image/truncated', 'The PNG has no end chunk.', hint, { offset: bytes.length })
}

/**
 * Reads size, channels, depth and the colour chunks (cICP, iCCP, sRGB, gAMA) of a PNG. Faults:
 * image/truncated, image/bad-structure.
 */
export function readPngHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const chunks = pngChunks(bytes)
  if (!chunks.ok) return chunks
  const find = (type: string) => chunks.value.find((c) => c.type === type)
  const first = chunks.value[0]
  if (first?.type !== 'IHDR' || first.length !== 13)
    return bad('image/bad-structure', 'The PNG does not begin with its header chunk.', hint, { part: 'IHDR' })
  if (!find('IDAT')) return bad('image/truncated', 'The PNG holds no picture data.', hint, { part: 'IDAT' })
  const data = chunkData(bytes, first),
    view = new DataView(data.buffer, data.byteOffset, 13)
  const width = view.getUint32(0),
    height = view.getUint32(4),
    bits = view.getUint8(8),
    type = view.getUint8(9)
  const base = channelsOf[type]
  if (width === 0 || height === 0 || base === undefined || ![1, 2, 4, 8, 16].includes(bits))
    return bad(
      'image/bad-structure',
      `The PNG header makes no sense: ${width} × ${height}, ${bits} bit, colour type ${type}.`,
      hint,
      { part: 'IHDR' },
    )
  const keyed = find('tRNS') !== undefined && type !== 4 && type !== 6
  const alpha = type === 4 || type === 6 || keyed
  return good({
    format: 'png',
    width,
    height,
    channels: base + (keyed ? 1 : 0),
    depth: bits === 16 ? 16 : 8,
    palette: type === 3,
    alpha,
    ...plainTexels,
    statedRole: statedRoleOfPng(bytes, chunks.value),
    ...colourSpaceOfPng(bytes, chunks.value),
    sizeBytes: bytes.length,
  })
}

/** Keyword of the text chunk in which a PNG can say what it carries. */
export const ROLE_KEYWORD = 'Texture role'

/** The role that a text chunk states; null when none does. */
function statedRoleOfPng(bytes: Uint8Array, chunks: readonly PngChunk[]): string | null {
  for (const chunk of chunks) {
    if (chunk.type !== 'tEXt' || chunk.length > 200) continue
    const [keyword, text] = String.fromCharCode(...chunkData(bytes, chunk)).split('\0')
    if (keyword === ROLE_KEYWORD && text) return text
  }
  return null
}

/**
 * The space that the chunks claim; by the PNG specification cICP wins over iCCP, iCCP over sRGB, sRGB over
 * gAMA.
 */
function colourSpaceOfPng(
  bytes: Uint8Array,
  chunks: readonly PngChunk[],
): { colourSpace: ColourSpace; colourEvidence: string[] } {
  const said: { space: ColourSpace; evidence: string }[] = []
  for (const type of ['cICP', 'iCCP', 'sRGB', 'gAMA']) {
    const chunk = chunks.find((c) => c.type === type)
    if (chunk) said.push(readers[type]!(chunkData(bytes, chunk)))
  }
  return { colourSpace: said[0]?.space ?? 'unstated', colourEvidence: said.map((s) => s.evidence) }
}

/** Largest profile that is unpacked; those of tables take a megabyte or two. */
const LARGEST_PROFILE = 3_000_000

/** The profile of an iCCP chunk: behind its name stand a byte and the packed profile. Damaged ones are empty. */
function unpacked(data: Uint8Array): Uint8Array {
  const end = data.indexOf(0)
  try {
    return end < 0
      ? new Uint8Array(0)
      : unzlibSync(data.subarray(end + 2), { out: new Uint8Array(LARGEST_PROFILE) })
  } catch {
    return new Uint8Array(0)
  }
}

const readers: Record<string, (data: Uint8Array) => { space: ColourSpace; evidence: string }> = {
  cICP: (data) => {
    // Transfer functions of ITU-T H.273: 8 linear, 13 sRGB
    const transfer = data[1] ?? 0
    return {
      space: transfer === 13 ? 'srgb' : transfer === 8 ? 'linear' : 'other',
      evidence: `cICP transfer ${transfer}`,
    }
  },
  iCCP: (data) => {
    const profile = iccProfile(unpacked(data))
    return { space: profile.colourSpace, evidence: `iCCP: ${profile.colourEvidence[0]}` }
  },
  sRGB: () => ({ space: 'srgb', evidence: 'sRGB' }),
  gAMA: (data) => {
    const gamma = data.length >= 4 ? new DataView(data.buffer, data.byteOffset, 4).getUint32(0) : 0
    const space = gamma === 100000 ? 'linear' : SRGB_GAMMA.includes(gamma) ? 'srgb' : 'other'
    return { space, evidence: `gAMA ${(gamma / 100000).toFixed(5)}` }
  },
}
