import { fileName } from '../read/deliveryPath'
import { uniqueName } from './slotNames'

/**
 * Stable names of an asset's textures: file names, pictures inside the mesh first; doubled names with #2, #3
 * …
 */
export function textureNames(
  embedded: readonly string[],
  paths: readonly string[],
): { embedded: string[]; files: string[] } {
  const seen = new Map<string, number>(),
    named: { embedded: string[]; files: string[] } = { embedded: [], files: [] }
  for (const name of embedded) named.embedded.push(uniqueName(name, seen))
  for (const path of paths) named.files.push(uniqueName(fileName(path), seen))
  return named
}
