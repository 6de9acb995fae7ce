import { HalfFloatType } from 'three'
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js'
import { HDRLoader } from 'three/examples/jsm/loaders/HDRLoader.js'

/** A picture of light from all sides: the bytes of its file and what they are. */
export interface SurroundingFile {
  bytes: ArrayBuffer
  format: 'hdr' | 'exr'
}
/** Half floats, four a pixel, rows as the file has them; or why it could not be read. */
export type SurroundingAnswer =
  { data: Uint16Array; width: number; height: number; fromFoot: boolean } | { trouble: string }

const port = self as unknown as {
  onmessage: (event: MessageEvent<SurroundingFile>) => void
  postMessage: (answer: SurroundingAnswer, moved?: Transferable[]) => void
}

port.onmessage = ({ data: { bytes, format } }) => {
  try {
    const read =
      format === 'hdr'
        ? new HDRLoader().setDataType(HalfFloatType).parse(bytes)
        : new EXRLoader().setDataType(HalfFloatType).parse(bytes)
    const { width = 0, height = 0 } = read,
      data = read.data as Uint16Array
    if (!(width > 0 && height > 0) || data.length !== width * height * 4)
      return port.postMessage({ trouble: 'It holds no red, green and blue of half floats.' })
    port.postMessage({ data, width, height, fromFoot: format === 'exr' }, [data.buffer])
  } catch (error) {
    port.postMessage({ trouble: (error as Error).message })
  }
}
