import { bad, good, type Outcome } from '@stern-gate/contract'
import { floatTexels } from './blocks/storedTexels'
import { ktx2Texels, readKtx2Header } from './readKtx2Header'

/** Light by direction: red, green and blue of each texel, rows from the top. */
export interface LightPicture {
  width: number
  height: number
  /** RGB, one after the other. */
  values: Float32Array
}

/** Unpacks what a level is packed by once more. */
export type UnpackLevel = (bytes: Uint8Array, packing: 'zstd' | 'zlib') => Promise<Uint8Array>

/**
 * Reads the light of a KTX2: floating-point texels or BC6H of its largest level. Faults: those of a KTX2, and
 * image/format-not-read where its texels are of another kind.
 */
export async function lightOfKtx2(bytes: Uint8Array, unpack: UnpackLevel): Promise<Outcome<LightPicture>> {
  const header = readKtx2Header(bytes)
  if (!header.ok) return header
  const { width, height } = header.value,
    found = ktx2Texels(bytes)
  if (!found || found.layout === 'basis') return notLight
  const packed = bytes.subarray(found.from, found.to)
  const { packing } = found
  const level = packing === 'zstd' || packing === 'zlib' ? await unpack(packed, packing) : packed
  const texels = floatTexels(level, width, height, found.layout)
  if (!texels || texels.channels < 3) return notLight
  const { channels, values } = texels
  if (channels === 3) return good({ width, height, values })
  const light = new Float32Array(width * height * 3)
  for (let t = 0; t < width * height; t++)
    for (let c = 0; c < 3; c++) light[t * 3 + c] = values[t * channels + c]!
  return good({ width, height, values: light })
}

const notLight = bad(
  'image/format-not-read',
  'It holds no light: its texels are no floating-point numbers of red, green and blue.',
  'Store it as half floats, as floats or as BC6H.',
)
