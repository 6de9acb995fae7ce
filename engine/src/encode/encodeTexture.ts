import {
  bad,
  good,
  type EncodedFormat,
  type EncodingFacts,
  type EncodingPlan,
  type Outcome,
  type TextureRole,
} from '@stern-gate/contract'
import {
  comparePixels,
  coverage,
  fullValue,
  mipChain,
  readTextureHeader,
  textureMemory,
  type Meaning,
  type Pixels,
} from '@stern-gate/core'
import { decodeImage, encodePng } from '../imagePorts'
import { encodeBasis, encodeBlocks, type EncodeOptions, type Rgba } from './basisEncoder'
import { ddsOfBlocks, ktx2OfBlocks } from './blockFiles'
import { blockLayouts, isPlainFormat } from './blockLayouts'

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
 * source. Faults: of reading; image/too-large; encode/refused where the format or container cannot take it.
 */
export async function encodeTexture(
  bytes: Uint8Array,
  path: string,
  plan: EncodingPlan,
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
  const written = await writeFile(source.value, plan, progress)
  if (!written.ok) return written
  const seconds = (performance.now() - began) / 1000
  progress('reading it back')
  const back = await decodedAgain(written.value.file, plan)
  if (!back.ok) return back
  progress('measuring the error')
  return good({
    file: written.value.file,
    picture: await encodePng(shown(back.value, plan.role)),
    facts: factsOf(source.value, back.value, plan, { ...written.value, seconds }),
  })
}

/** Light under the curve, vectors or data, by what it carries. */
const meaningOf = (role: TextureRole | null): Meaning =>
  role === 'normal'
    ? 'vectors'
    : role === null || role === 'basecolor' || role === 'emissive'
      ? 'srgb'
      : 'linear'

interface Written {
  file: Uint8Array
  levels: number
}

async function writeFile(
  source: Pixels,
  plan: EncodingPlan,
  progress: (doing: string) => void,
): Promise<Outcome<Written>> {
  const { format, quality, container, mips, role, cutoff } = plan
  const meaning = meaningOf(role)
  const options: EncodeOptions = { quality, srgb: meaning === 'srgb', vectors: meaning === 'vectors' }
  try {
    if (!isPlainFormat(format)) {
      if (container === 'dds') return noContainer(format)
      progress(`encoding ${format}`)
      const file = await encodeBasis(rgbaOf(source), format, { ...options, mips })
      const levels = mips ? 1 + Math.floor(Math.log2(Math.max(source.width, source.height))) : 1
      return good({ file, levels })
    }
    const chain = mips ? mipChain(source, meaning, cutoff) : [source]
    const blocks: Uint8Array[] = []
    for (const [n, level] of chain.entries()) {
      progress(`encoding ${format}, level ${n + 1} of ${chain.length}`)
      blocks.push(await encodeBlocks(rgbaOf(level), format, options))
    }
    const all = { width: source.width, height: source.height, levels: blocks, srgb: options.srgb }
    const file =
      container === 'dds' ? ddsOfBlocks(all, blockLayouts[format]) : ktx2OfBlocks(all, blockLayouts[format])
    return file ? good({ file, levels: blocks.length }) : noContainer(format)
  } catch {
    return bad(
      'encode/refused',
      `The encoder gave up on ${source.width} × ${source.height} texels as ${format}.`,
      'Try another format or size.',
    )
  }
}

const noContainer = (format: EncodedFormat): Outcome<never> =>
  bad('encode/refused', `DDS has no number for ${format}.`, 'Write a KTX2.')

/** Four channels of eight bits; grey stands in all three, what has no alpha is opaque. */
function rgbaOf(pixels: Pixels): Rgba {
  const { width, height, channels, data } = pixels
  const count = width * height,
    full = fullValue(pixels)
  const out = new Uint8Array(count * 4)
  const grey = channels < 3,
    alpha = channels % 2 === 0 ? channels - 1 : -1
  const byte = (v: number): number => (full === 255 ? v : Math.round(v / 257))
  for (let t = 0; t < count; t++) {
    for (let c = 0; c < 3; c++) out[t * 4 + c] = byte(data[t * channels + (grey ? 0 : c)]!)
    out[t * 4 + 3] = alpha < 0 ? 255 : byte(data[t * channels + alpha]!)
  }
  return { width, height, data: out }
}

async function decodedAgain(file: Uint8Array, { container }: EncodingPlan): Promise<Outcome<Pixels>> {
  const header = readTextureHeader(file, `encoded.${container}`)
  return header.ok ? decodeImage(file, header.value) : header
}

/** For the eye: a normal map of two channels gets its third. */
function shown(decoded: Pixels, role: TextureRole | null): Pixels {
  if (decoded.channels !== 2) return decoded
  const { width, height, data } = decoded
  const out = new Uint8Array(width * height * 3)
  for (let t = 0; t < width * height; t++) {
    const x = data[t * 2]!,
      y = data[t * 2 + 1]!
    const z = Math.sqrt(Math.max(0, 1 - (x / 127.5 - 1) ** 2 - (y / 127.5 - 1) ** 2))
    out.set([x, y, role === 'normal' ? Math.round((z / 2 + 0.5) * 255) : 0], t * 3)
  }
  return { width, height, channels: 3, depth: 8, data: out }
}

const NAMES = ['R', 'G', 'B', 'A'] as const

function factsOf(
  source: Pixels,
  decoded: Pixels,
  plan: EncodingPlan,
  { file, levels, seconds }: Written & { seconds: number },
): EncodingFacts {
  const rgba = rgbaOf(source),
    whole: Pixels = { ...rgba, channels: 4, depth: 8 },
    back = decoded.channels === 4 ? decoded : widened(decoded)
  const keeps = isPlainFormat(plan.format) ? blockLayouts[plan.format].keeps : [0, 1, 2, 3]
  const has =
    source.channels === 1
      ? [0]
      : source.channels === 2
        ? [0, 3]
        : source.channels === 3
          ? [0, 1, 2]
          : [0, 1, 2, 3]
  const compared = has.filter((c) => keeps.includes(c))
  const vectors = plan.role === 'normal' && source.channels >= 3
  const error = comparePixels(whole, vectors && decoded.channels === 2 ? decoded : back, compared, {
    vectors,
  })
  return {
    plan,
    width: source.width,
    height: source.height,
    levels,
    fileBytes: file.length,
    memoryBytes: levels > 1 ? textureMemory(source, plan.format) : levelBytes(source, plan.format),
    seconds,
    compared: compared.map((c) => NAMES[c]!),
    ...error,
    coverage:
      plan.cutoff !== null && has.includes(3) && keeps.includes(3)
        ? { source: coverage(whole, plan.cutoff), encoded: coverage(back, plan.cutoff) }
        : null,
  }
}

const levelBytes = ({ width, height }: Pixels, format: EncodedFormat): number => {
  const {
    width: w,
    height: h,
    bytes,
  } = isPlainFormat(format)
    ? blockLayouts[format]
    : { width: 4, height: 4, bytes: format === 'ETC1S' ? 8 : 16 }
  return Math.ceil(width / w) * Math.ceil(height / h) * bytes
}

/** Four channels of what a file has fewer of: what is not kept is nothing, and opaque. */
function widened({ width, height, channels, depth, data }: Pixels): Pixels {
  const out = new (depth === 16 ? Uint16Array : Uint8Array)(width * height * 4)
  const full = depth === 16 ? 65535 : 255
  for (let t = 0; t < width * height; t++) {
    for (let c = 0; c < 3; c++) out[t * 4 + c] = c < channels ? data[t * channels + c]! : 0
    out[t * 4 + 3] = full
  }
  return { width, height, channels: 4, depth, data: out }
}
