import { SaidError } from '../words/troubleWords'
import { asking } from './askWorker'
import { keepSurrounding, type OwnSurrounding } from './surroundingKept'
import type { SurroundingAnswer, SurroundingFile } from './surroundingWorker'

/** Least ratio of width to height, and the greatest, of a picture that goes all around. */
const [NARROW, WIDE] = [1.8, 2.2]

/** Reads a picture of light: Radiance HDR, OpenEXR or a KTX2 of floats, twice as wide as high. Throws with what is wrong. */
export async function bringSurrounding(file: File): Promise<OwnSurrounding> {
  const format = /\.(hdr|exr|ktx2)$/i.exec(file.name)?.[1]?.toLowerCase() as
    SurroundingFile['format'] | undefined
  if (!format) throw new SaidError(`${file.name} is no .hdr, .exr or .ktx2 file: bring one of these.`)
  const worker = new Worker(new URL('./surroundingWorker.ts', import.meta.url), { type: 'module' })
  try {
    const ask = asking<SurroundingFile, SurroundingAnswer>(worker)
    const read = await ask({ bytes: await file.arrayBuffer(), format })
    if ('trouble' in read) throw new SaidError(`${file.name} cannot be read: ${read.trouble}`)
    const { width, height } = read
    if (width < height * NARROW || width > height * WIDE)
      throw new SaidError(
        `${file.name} is ${width} × ${height}: a picture that goes all around is twice as wide as high.`,
      )
    const brought = { name: file.name, picture: read }
    keepSurrounding(brought)
    return brought
  } finally {
    worker.terminate()
  }
}
