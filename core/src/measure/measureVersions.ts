import type { FileKind } from '@stern-gate/contract'
import { isMeshKind, isTextureKind } from '../read/fileKind'

/** Version of each measure: raise one and only what it measures is measured again. */
export const measureVersions = { mesh: 23, texture: 17, thumbnail: 2 } as const

/** What is measured of a file, and its version: a mesh file holds textures, both are drawn as a thumbnail. */
export interface FileMeasure {
  measure: 'mesh' | 'texture' | 'file'
  version: number
}

const { mesh, texture, thumbnail } = measureVersions
/** The newest version of what is measured of each kind of file. */
export const fileMeasures: readonly FileMeasure[] = [
  { measure: 'mesh', version: mesh * 10_000 + texture * 100 + thumbnail },
  { measure: 'texture', version: texture * 100 + thumbnail },
  { measure: 'file', version: 1 },
]

/** What is measured of a file of this kind. */
export const measureOfKind = (kind: FileKind): FileMeasure =>
  fileMeasures[isMeshKind(kind) ? 0 : isTextureKind(kind) ? 1 : 2]!
