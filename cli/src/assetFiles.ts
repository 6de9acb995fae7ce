import type { AssetKind } from '@stern-gate/contract'
import type { MeasuredFile } from '@stern-gate/core'
import type { AssetFiles } from '@stern-gate/engine'

/** Files of an asset for the engine, with where they lie on the disk; the main one first. */
export function assetFiles(
  asset: { name: string; kind: AssetKind; files: readonly string[] },
  measured: ReadonlyMap<string, MeasuredFile>,
  placed: ReadonlyMap<string, string>,
): AssetFiles {
  return {
    name: asset.name,
    assetKind: asset.kind,
    main: asset.files[0]!,
    files: asset.files
      .filter((path) => placed.has(path))
      .map((path) => {
        const kind = measured.get(path)?.facts?.kind
        return {
          path,
          part: kind === 'mesh' ? 'mesh' : kind === 'texture' ? 'texture' : 'buffer',
          file: placed.get(path)!,
        }
      }),
  }
}

/** A path that leads outside of the folder stays in it. */
export const insideOnly = (path: string): string =>
  path.replace(/(^|\/)\.\.(?=\/)/g, '$1_').replace(/^\/+/, '')
