import type { AssetKind } from '@stern-gate/contract'

/** Folder of each kind of asset in a package. */
const folders: Record<AssetKind, string> = { mesh: 'meshes', 'texture-set': 'texture-sets' }

export interface AssetToPack {
  name: string
  kind: AssetKind
  files: readonly { path: string }[]
}

/**
 * Where the files of an asset stand in a package: target, kind, asset, and below that as they stood to one
 * another, so that a mesh finds its textures and no byte has to be written anew. `taken` holds the folders of
 * other assets, in small letters, and takes this one's in.
 */
export function packagePaths(target: string, asset: AssetToPack, taken: Set<string>): string[] {
  const base = `${folderName(target)}/${folders[asset.kind]}/${folderName(asset.name)}`
  let folder = base
  for (let n = 2; taken.has(folder.toLowerCase()); n++) folder = `${base}-${n}`
  taken.add(folder.toLowerCase())
  const paths = asset.files.map((f) => f.path),
    above = commonFolder(paths)
  return paths.map((path) => `${folder}/${path.slice(above.length)}`)
}

/** The longest folder that all paths stand in, with / at its end; empty when there is none. */
function commonFolder(paths: readonly string[]): string {
  const folder = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1)
  let common = folder(paths[0] ?? '')
  for (const path of paths) while (!path.startsWith(common)) common = folder(common.slice(0, -1))
  return common
}

/** Characters that some file system does not take, and names that mean a folder or a device. */
const UNSAFE = /[<>:"/\\|?*\p{Cc}]/gu
const RESERVED = /^(\.+|con|prn|aux|nul|com\d|lpt\d)$/i

/** A name as a folder of any file system. */
function folderName(name: string): string {
  const safe = name.replace(UNSAFE, '_').replace(/[. ]+$/, '')
  return safe === '' || RESERVED.test(safe) ? `${safe}_` : safe
}
