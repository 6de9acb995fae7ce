import { decompress } from 'fzstd'
import { DataUtils, HalfFloatType } from 'three'
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js'
import { HDRLoader } from 'three/examples/jsm/loaders/HDRLoader.js'
import { lightOfKtx2, type UnpackLevel } from '@stern-gate/core/light'
import type { PictureAround } from './pictureAround'

/** A picture of light from all sides: the bytes of its file and what they are. */
export interface SurroundingFile {
  bytes: ArrayBuffer
  format: 'hdr' | 'exr' | 'ktx2'
}
/** The light, or why it could not be read. */
export type SurroundingAnswer = PictureAround | { trouble: string }

const port = self as unknown as {
  onmessage: (event: MessageEvent<SurroundingFile>) => void
  postMessage: (answer: SurroundingAnswer, moved?: Transferable[]) => void
}

port.onmessage = async ({ data: { bytes, format } }) => {
  try {
    const light = format === 'ktx2' ? await ofKtx2(bytes) : ofLoader(bytes, format)
    port.postMessage(light, 'data' in light ? [light.data.buffer] : [])
  } catch (error) {
    port.postMessage({ trouble: (error as Error).message })
  }
}

function ofLoader(bytes: ArrayBuffer, format: 'hdr' | 'exr'): SurroundingAnswer {
  const read =
    format === 'hdr'
      ? new HDRLoader().setDataType(HalfFloatType).parse(bytes)
      : new EXRLoader().setDataType(HalfFloatType).parse(bytes)
  const { width = 0, height = 0 } = read,
    data = read.data as Uint16Array
  return width > 0 && height > 0 && data.length === width * height * 4
    ? { data, width, height, fromFoot: format === 'exr' }
    : { trouble: 'It holds no red, green and blue of half floats.' }
}

async function ofKtx2(bytes: ArrayBuffer): Promise<SurroundingAnswer> {
  const read = await lightOfKtx2(new Uint8Array(bytes), unpack)
  if (!read.ok) return { trouble: `${read.fault.why} ${read.fault.hint}` }
  const { width, height, values } = read.value
  const data = new Uint16Array(width * height * 4),
    one = DataUtils.toHalfFloat(1)
  for (let t = 0; t < width * height; t++) {
    for (let c = 0; c < 3; c++) data[t * 4 + c] = DataUtils.toHalfFloat(finite(values[t * 3 + c]!))
    data[t * 4 + 3] = one
  }
  return { data, width, height, fromFoot: false }
}

/** What half floats hold; light is not below 0. */
const finite = (value: number): number => (value > 0 ? Math.min(value, 65_504) : 0)

const unpack: UnpackLevel = async (packed, packing) =>
  packing === 'zstd'
    ? decompress(packed)
    : new Uint8Array(
        await new Response(
          new Blob([packed as BlobPart]).stream().pipeThrough(new DecompressionStream('deflate')),
        ).arrayBuffer(),
      )
