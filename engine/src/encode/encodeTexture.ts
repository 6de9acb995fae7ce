import {
  bad,
  good,
  type EncodedFormat,
  type EncodingFacts,
  type EncodingPlan,
  type Outcome,
  type TextureHeader,
  type TextureRole,
} from '@stern-gate/contract'
import {
  comparePixels,
  coverage,
  mipChain,
  packChannels,
  readTextureHeader,
  textureMemory,
  usedRows,
  withThird,
  type Meaning,
  type Pixels,
} from '@stern-gate/core'
import { decodeImage, encodePng } from '../imagePorts'
import { encodeBasis, encodeBlocks, type EncodeOptions, type Rgba } from './basisEncoder'
import { ddsOfBlocks, ktx2OfBlocks } from './blockFiles'
import { isPlainFormat, layoutOf } from './blockLayouts'

/** A texture as it is encoded, and what was read back from the written file. */
export interface EncodedTexture {
  file: Uint8Array
  /** The largest level as it is decoded again, as PNG. */
  picture: Uint8Array
  facts: EncodingFacts
}

/** More than this takes longer than anybody waits, and more memory than a thread has. */
const MOST_TEXELS = 8192 * 8192
/** Whole files of Basis Universal are made at once, with their mips. */
const MOST_OF_BASIS = 12 * 1024 * 1024

/**
 * Encodes a texture with its mips, writes the file, reads it with our own readers and measures how far it is from the
 * source: over the cells that UV islands use, where these are given. Faults: of reading; image/too-large;
 * encode/refused where the format or container cannot take it.
 */
export async function encodeTexture(
  bytes: Uint8Array,
  path: string,
  plan: EncodingPlan,
  cells: Uint32Array | null = null,
  progress: (doing: string) => void = () => undefined,
): Promise<Outcome<EncodedTexture>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  const { width, height } = header.value
  if (width * height > (isPlainFormat(plan.format) ? MOST_TEXELS : MOST_OF_BASIS))
    return bad(
      'image/too-large',
      `${width} × ${height} texels are more than the encoder of ${plan.format} takes.`,
      'Resize it first, or choose another format.',
    )
  progress('decoding')
  const source = await decodeImage(bytes, header.value)
  if (!source.ok) return source
  const began = performance.now()
  const encoded = await encodedFile(source.value, plan, progress)
  if (!encoded.ok) return encoded
  const { file, chain } = encoded.value
  const seconds = (performance.now() - began) / 1000
  progress('reading it back')
  const back = await readBack(file, plan)
  if (!back.ok) return back
  progress('measuring the error')
  const { share, ...error } = errorOf(source.value, back.value.pixels, plan, cells)
  return good({
    file,
    picture: await encodePng(shown(back.value.pixels, plan.role)),
    facts: {
      plan,
      width: source.value.width,
      height: source.value.height,
      levels: back.value.header.mips,
      fileBytes: file.length,
      memoryBytes: textureMemory(source.value, plan.format, plan.mips),
      seconds,
      ...error,
      used: share < 1 ? share : null,
      smaller: await smallerLevels(chain, plan, cells),
    },
  })
}

/** Light under the curve, vectors or data, by what it carries. */
export const meaningOf = (role: TextureRole | null): Meaning =>
  role === 'normal'
    ? 'vectors'
    : role === null || role === 'basecolor' || role === 'emissive'
      ? 'srgb'
      : 'linear'

/** Whether a picture is taken as vectors, whose error is an angle. */
export const isVectorMap = ({ channels }: Pick<Pixels, 'channels'>, role: TextureRole | null): boolean =>
  role === 'normal' && channels >= 3

/** A level of a chain before it was encoded, and its blocks. */
interface EncodedLevel {
  pixels: Pixels
  blocks: Uint8Array
}
/** A written file; the chain is empty where the library makes the levels. */
export interface EncodedFile {
  file: Uint8Array
  chain: readonly EncodedLevel[]
}

/** The written file of a texture by a plan. Faults: encode/refused. */
export async function encodedFile(
  source: Pixels,
  plan: EncodingPlan,
  progress: (doing: string) => void,
): Promise<Outcome<EncodedFile>> {
  const { format, quality, container, mips, role, cutoff } = plan
  const meaning = meaningOf(role)
  const options: EncodeOptions = { quality, srgb: meaning === 'srgb', vectors: meaning === 'vectors' }
  try {
    if (!isPlainFormat(format)) {
      if (container === 'dds') return noContainer(format)
      progress(`encoding ${format}`)
      return good({ file: await encodeBasis(rgbaOf(source), format, { ...options, mips }), chain: [] })
    }
    const levels = mips ? mipChain(source, meaning, cutoff) : [source]
    const chain: EncodedLevel[] = []
    for (const [n, pixels] of levels.entries()) {
      progress(`encoding ${format}, level ${n + 1} of ${levels.length}`)
      chain.push({ pixels, blocks: await encodeBlocks(rgbaOf(pixels), format, options) })
    }
    const file = fileOf(chain, plan)
    return file ? good({ file, chain }) : noContainer(format)
  } catch {
    return bad(
      'encode/refused',
      `The encoder gave up on ${source.width} × ${source.height} texels as ${format}.`,
      'Try another format or size.',
    )
  }
}

/** Levels in their container; null where that has no number for the format. */
function fileOf(
  chain: readonly EncodedLevel[],
  { format, container, role }: EncodingPlan,
): Uint8Array | null {
  if (!isPlainFormat(format)) return null
  const { width, height } = chain[0]!.pixels
  const all = { width, height, levels: chain.map((l) => l.blocks), srgb: meaningOf(role) === 'srgb' }
  return (container === 'dds' ? ddsOfBlocks : ktx2OfBlocks)(all, layoutOf(format))
}

const noContainer = (format: EncodedFormat): Outcome<never> =>
  bad('encode/refused', `DDS has no number for ${format}.`, 'Write a KTX2.')

/** Four channels of eight bits; grey stands in all three, what has no alpha is opaque. */
export function rgbaOf(pixels: Pixels): Rgba {
  const { width, height, data, depth } = packChannels(
    (['R', 'G', 'B', 'A'] as const).map((channel) => ({ pixels, channel, inverted: false })),
  )
  return {
    width,
    height,
    data: depth === 8 ? Uint8Array.from(data) : Uint8Array.from(data, (v) => Math.round(v / 257)),
  }
}

interface ReadBack {
  header: TextureHeader
  pixels: Pixels
}

/** A written file as our own readers see it. Faults: of reading. */
export async function readBack(file: Uint8Array, { container }: EncodingPlan): Promise<Outcome<ReadBack>> {
  const header = readTextureHeader(file, `encoded.${container}`)
  if (!header.ok) return header
  const pixels = await decodeImage(file, header.value)
  return pixels.ok ? good({ header: header.value, pixels: pixels.value }) : pixels
}

/** For the eye: a normal map of two channels gets its third; two channels of anything else stand with nothing in blue. */
function shown(decoded: Pixels, role: TextureRole | null): Pixels {
  if (decoded.channels !== 2) return decoded
  const whole = withThird(decoded)
  if (role !== 'normal') for (let k = 2; k < whole.data.length; k += 3) whole.data[k] = 0
  return whole
}

/** Channels that a format keeps. */
export const keptBy = (format: EncodedFormat): readonly number[] =>
  isPlainFormat(format) ? layoutOf(format).keeps : [0, 1, 2, 3]

/** Channels by their number in a picture of four. */
export const channelLetters = ['R', 'G', 'B', 'A'] as const

/** How far a decoded picture is from what was encoded, by the channels that the format keeps. */
function errorOf(
  source: Pixels,
  decoded: Pixels,
  plan: EncodingPlan,
  cells: Uint32Array | null,
): Pick<EncodingFacts, 'compared' | 'psnr' | 'psnrAll' | 'ssim' | 'angle' | 'coverage'> & { share: number } {
  const whole: Pixels = { ...rgbaOf(source), channels: 4, depth: 8 }
  const keeps = keptBy(plan.format)
  const has = [[0], [0, 3], [0, 1, 2], [0, 1, 2, 3]][source.channels - 1]!
  const compared = has.filter((c) => keeps.includes(c))
  return {
    compared: compared.map((c) => channelLetters[c]!),
    ...comparePixels(whole, decoded, compared, {
      vectors: isVectorMap(source, plan.role),
      rows: cells && usedRows(source, cells),
    }),
    coverage:
      plan.cutoff !== null && compared.includes(3)
        ? { source: coverage(whole, plan.cutoff), encoded: coverage(decoded, plan.cutoff) }
        : null,
  }
}

/** The levels after the largest, each read back by itself and held against the mip that it was encoded from. */
async function smallerLevels(
  chain: readonly EncodedLevel[],
  plan: EncodingPlan,
  cells: Uint32Array | null,
): Promise<EncodingFacts['smaller']> {
  const smaller: EncodingFacts['smaller'] = []
  for (const level of chain.slice(1)) {
    const file = fileOf([level], plan),
      back = file && (await readBack(file, plan))
    if (!back?.ok) break
    const { psnrAll, angle, coverage } = errorOf(level.pixels, back.value.pixels, plan, cells)
    const { width, height } = level.pixels
    smaller.push({
      width,
      height,
      psnr: psnrAll,
      angle: angle?.mean ?? null,
      coverage: coverage?.encoded ?? null,
    })
  }
  return smaller
}
