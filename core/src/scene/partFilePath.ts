import { fileStem } from '../read/deliveryPath'
import { isMeshName } from '../read/fileKind'
import { baseName } from './meshParts'

/** What says of a file beside a mesh that it is a level or the collision of it. */
export type PartMark = `lod${number}` | 'hull'

/** Path of a level or the collision that stands beside a mesh as a file of its own. */
export const partFilePath = (mesh: string, mark: PartMark, extension: string): string =>
  // A name may hold what means something in a replacement
  mesh.replace(/[^/]*$/, () => `${baseName(fileStem(mesh))}_${mark}.${extension}`)

/**
 * Path for a file that is given to a mesh as a level or its collision: a mesh is named after it, with the mark; what
 * comes with it stands beside under its own name.
 */
export function placeOfPart(mesh: string, mark: PartMark, file: string): string {
  const name = file.split('/').at(-1)!
  return isMeshName(name)
    ? partFilePath(mesh, mark, /[^.]*$/.exec(name)![0])
    : mesh.replace(/[^/]*$/, () => name)
}
