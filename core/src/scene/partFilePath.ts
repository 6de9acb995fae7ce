import { fileStem } from '../read/deliveryPath'
import { baseName } from './meshParts'

/** What says of a file beside a mesh that it is a level or the collision of it. */
export type PartMark = `lod${number}` | 'hull'

/** Path of a level or the collision that stands beside a mesh as a file of its own. */
export const partFilePath = (mesh: string, mark: PartMark, extension: string): string =>
  mesh.replace(/[^/]*$/, `${baseName(fileStem(mesh))}_${mark}.${extension}`)
