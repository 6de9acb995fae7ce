import type { MeasuredFile } from './assembleAssets'

/** What is measured of a file once more is known than the file itself. */
type Later = 'used' | 'stored'

/** Measured files with what was found of them later, by path. */
export const withLater = <K extends Later>(
  files: readonly MeasuredFile[],
  field: K,
  found: ReadonlyMap<string, NonNullable<MeasuredFile[K]>>,
): MeasuredFile[] =>
  files.map((f) => (found.has(f.path) ? { ...f, [field]: { ...f[field], ...found.get(f.path) } } : f))
