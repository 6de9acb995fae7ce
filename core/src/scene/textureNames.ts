import { fileName } from '../read/deliveryPath'
import { uniqueNames } from './slotNames'

/** Stable names of an asset's textures: file names, pictures inside the mesh first; doubled names with #2, #3 … */
export function textureNames(embedded: readonly string[], paths: readonly string[]): { embedded: string[]; files: string[] } {
  const things = [...embedded.map((name) => ({ name })), ...paths.map((path) => ({ name: fileName(path) }))]
  const names = [...uniqueNames(things, (t) => t.name).values()]
  return { embedded: names.slice(0, embedded.length), files: names.slice(embedded.length) }
}
