import type { MeasuredFile } from '@stern-gate/core'

/** A measured file with the large things that stand beside its facts. */
export interface FileMeasurement {
  measured: MeasuredFile
  evidence: Uint8Array | null
  thumbnail: Uint8Array | null
  /** Pictures that stood inside a mesh file. */
  pictures: { sha256: string; bytes: Uint8Array }[]
}

/** Of a file that gave facts at most. */
export const nothingBeside = { evidence: null, thumbnail: null, pictures: [] }
