import { resolveReference } from '@stern-gate/core'
import type { PlacedFile } from './tasks'

/** Gives the place of the bytes that a reference means; null when no such file came. */
export type FindBeside = (asked: string) => string | null

/** Nothing lies beside the file. */
export const nothingAround: FindBeside = () => null

/**
 * The files of a delivery as those that a mesh may refer to: by path, else by name. Made once for a delivery,
 * since its index takes as long to make as the list is.
 */
export function findAmong(files: readonly PlacedFile[]): FindBeside {
  const paths = files.map((f) => f.path)
  const places = new Map(files.map((f) => [f.path, f.file]))
  return (asked) => {
    const found = resolveReference(asked, paths)
    return found === null ? null : places.get(found.path)!
  }
}
