import * as library from 'ktx2-encoder'
import { read } from 'ktx-parse'
import type { EncodedFormat, EncodingQuality } from '@stern-gate/contract'
import { layoutOf, type PlainFormat } from './blockLayouts'

/** Eight bits a channel, red first, rows from the top. */
export interface Rgba {
  width: number
  height: number
  data: Uint8Array
}
export interface EncodeOptions {
  quality: EncodingQuality
  /** The values are light under the sRGB curve: errors are weighed as the eye does. */
  srgb: boolean
  vectors: boolean
}

/** The part of Basis Universal's encoder that is used; an enum's member carries its number. */
interface Encoder {
  setTexType: (type: number) => void
  setSliceSourceImage: (slice: number, data: Uint8Array, w: number, h: number, type: number) => boolean
  setFormatMode: (mode: number) => void
  setPerceptual: (on: boolean) => void
  setStatusOutput: (on: boolean) => void
  setMipGen: (on: boolean) => void
  setMipSRGB: (on: boolean) => void
  setMipRenormalize: (on: boolean) => void
  setCreateKTX2File: (on: boolean) => void
  setKTX2UASTCSupercompression: (on: boolean) => void
  setKTX2AndBasisSRGBTransferFunc: (on: boolean) => void
  setUASTC: (on: boolean) => void
  setQualityLevel: (level: number) => void
  setETC1SCompressionLevel: (level: number) => void
  setPackUASTCFlags: (flags: number) => void
  setASTCOrXUASTCLDREffortLevel: (level: number) => void
  setASTCOrXUASTCLDRWeights: (r: number, g: number, b: number, a: number) => void
  setDDSFormat: (format: string) => void
  setDDSBC7Encoder: (encoder: number) => void
  setDDSBC7FLevel: (level: number) => void
  setDDSBC7EScalarLevel: (level: number) => void
  encode: (into: Uint8Array) => number
  encodeToDDS: (into: Uint8Array) => number
  delete: () => void
}
interface Ktx2 {
  startTranscoding: () => boolean
  getImageTranscodedSizeInBytes: (level: number, layer: number, face: number, format: number) => number
  transcodeImage: (
    into: Uint8Array,
    level: number,
    layer: number,
    face: number,
    format: number,
    ...more: number[]
  ) => boolean
  close: () => void
  delete: () => void
}
type Numbers = Record<string, { value: number }>
interface Module {
  BasisEncoder: new () => Encoder
  KTX2File: new (bytes: Uint8Array) => Ktx2
  basis_tex_format: Numbers
  transcoder_texture_format: Numbers
  dds_bc7_encoder: Numbers
  dds_bc7f_level: Numbers
}

let loaded: Promise<Module> | null = null
/** What the package has for Node; its types are those of the page. */
const { NodeBasisEncoder } = library as unknown as {
  NodeBasisEncoder: new () => { init: () => Promise<Module> }
}
const load = (): Promise<Module> => (loaded ??= new NodeBasisEncoder().init())

const SLACK = 65_536
const RAW = 0

const astcModes: Partial<Record<EncodedFormat, string>> = {
  'ASTC 4×4': 'cASTC_LDR_4x4',
  'ASTC 5×5': 'cASTC_LDR_5x5',
  'ASTC 6×6': 'cASTC_LDR_6x6',
  'ASTC 8×8': 'cASTC_LDR_8x8',
}
/** Effort of each encoder by quality; what is best takes many times as long for some tenths of a decibel. */
const astcEffort = { fast: 0, good: 0, best: 2 } as const
const uastcFlags = { fast: 0, good: 1, best: 2 } as const
const etc1sQuality = { fast: 64, good: 128, best: 255 } as const

/** The encoder takes no more than twelve million texels at once; blocks know nothing of each other. */
const MOST_AT_ONCE = 4_000_000

/**
 * The blocks of one level, row after row of them; a large one is encoded in strips of whole rows. Throws where the
 * encoder refuses.
 */
export async function encodeBlocks(
  picture: Rgba,
  format: PlainFormat,
  options: EncodeOptions,
): Promise<Uint8Array> {
  const { width, height, data } = picture,
    block = layoutOf(format).height
  const rows = Math.max(1, Math.floor(MOST_AT_ONCE / width / block)) * block
  if (height <= rows) return encodeStrip(picture, format, options)
  const strips: Uint8Array[] = []
  for (let from = 0; from < height; from += rows) {
    const own = Math.min(rows, height - from)
    strips.push(
      await encodeStrip(
        { width, height: own, data: data.subarray(from * width * 4, (from + own) * width * 4) },
        format,
        options,
      ),
    )
  }
  const all = new Uint8Array(strips.reduce((sum, s) => sum + s.length, 0))
  let at = 0
  for (const strip of strips) {
    all.set(strip, at)
    at += strip.length
  }
  return all
}

async function encodeStrip(picture: Rgba, format: PlainFormat, options: EncodeOptions): Promise<Uint8Array> {
  const module = await load()
  if (format.startsWith('BC')) return bcBlocks(module, picture, format, options)
  if (format === 'ETC2') return etc2Blocks(module, picture, options)
  const file = withEncoder(module, picture, options, (encoder) => {
    encoder.setFormatMode(module.basis_tex_format[astcModes[format]!]!.value)
    encoder.setASTCOrXUASTCLDREffortLevel(astcEffort[options.quality])
    encoder.setASTCOrXUASTCLDRWeights(1, 1, 1, 1)
    return (into) => encoder.encode(into)
  })
  return read(file).levels[0]!.levelData
}

function bcBlocks(module: Module, picture: Rgba, format: string, options: EncodeOptions): Uint8Array {
  const { quality } = options
  const file = withEncoder(module, picture, options, (encoder) => {
    encoder.setDDSFormat(format)
    encoder.setDDSBC7Encoder(
      module.dds_bc7_encoder[quality === 'best' ? 'cDDSBC7Encoder_BC7E_Scalar' : 'cDDSBC7Encoder_BC7F']!
        .value,
    )
    encoder.setDDSBC7FLevel(
      module.dds_bc7f_level[quality === 'fast' ? 'cDDSBC7FLevel_Analytical' : 'cDDSBC7FLevel_NonAnalytical']!
        .value,
    )
    encoder.setDDSBC7EScalarLevel(2)
    return (into) => encoder.encodeToDDS(into)
  })
  const code = new TextDecoder().decode(file.subarray(84, 88))
  return file.subarray(code === 'DX10' ? 148 : 128)
}

/** By way of UASTC, of which ETC2 is made without going back to texels. */
function etc2Blocks(module: Module, picture: Rgba, options: EncodeOptions): Uint8Array {
  const file = withEncoder(module, picture, options, (encoder) => {
    encoder.setUASTC(true)
    encoder.setPackUASTCFlags(uastcFlags[options.quality])
    return (into) => encoder.encode(into)
  })
  const ktx2 = new module.KTX2File(file)
  try {
    const format = module.transcoder_texture_format['cTFETC2_RGBA']!.value
    if (!ktx2.startTranscoding()) throw new Error('transcoding did not start')
    const blocks = new Uint8Array(ktx2.getImageTranscodedSizeInBytes(0, 0, 0, format))
    if (!ktx2.transcodeImage(blocks, 0, 0, 0, format, 0, -1, -1)) throw new Error('transcoding broke off')
    return blocks
  } finally {
    ktx2.close()
    ktx2.delete()
  }
}

/** A whole KTX2 of Basis Universal; its mips are the library's: they share one codebook in ETC1S. */
export async function encodeBasis(
  picture: Rgba,
  format: 'ETC1S' | 'UASTC',
  options: EncodeOptions & { mips: boolean },
): Promise<Uint8Array> {
  const module = await load()
  return withEncoder(module, picture, options, (encoder) => {
    encoder.setUASTC(format === 'UASTC')
    encoder.setKTX2UASTCSupercompression(true)
    encoder.setMipGen(options.mips)
    encoder.setMipSRGB(options.srgb)
    encoder.setMipRenormalize(options.vectors)
    if (format === 'UASTC') encoder.setPackUASTCFlags(uastcFlags[options.quality])
    else {
      encoder.setQualityLevel(etc1sQuality[options.quality])
      encoder.setETC1SCompressionLevel(1)
    }
    return (into) => encoder.encode(into)
  })
}

function withEncoder(
  module: Module,
  { width, height, data }: Rgba,
  { srgb }: EncodeOptions,
  prepare: (encoder: Encoder) => (into: Uint8Array) => number,
): Uint8Array {
  const encoder = new module.BasisEncoder()
  try {
    encoder.setTexType(0)
    encoder.setStatusOutput(false)
    encoder.setCreateKTX2File(true)
    encoder.setKTX2UASTCSupercompression(false)
    encoder.setKTX2AndBasisSRGBTransferFunc(srgb)
    encoder.setPerceptual(srgb)
    encoder.setMipGen(false)
    if (!encoder.setSliceSourceImage(0, data, width, height, RAW)) throw new Error('the picture was refused')
    const encode = prepare(encoder)
    const into = new Uint8Array(Math.ceil((width + 12) * (height + 12) * 5.4) + SLACK)
    const length = encode(into)
    if (length === 0) throw new Error('nothing was encoded')
    return into.slice(0, length)
  } finally {
    encoder.delete()
  }
}
