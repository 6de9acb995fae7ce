import { SURFACE_ENDING } from '@stern-gate/contract'
import { plainText } from './plainText'

/** What a file is by its first bytes; the extension is not asked. */
export type FileKind =
  | 'glb'
  | 'gltf'
  | 'obj'
  | 'stl'
  | 'ply'
  | 'fbx'
  | 'dae'
  | 'library'
  | 'png'
  | 'jpeg'
  | 'webp'
  | 'tga'
  | 'ktx2'
  | 'dds'
  | 'tiff'
  | 'avif'
  | 'exr'
  | 'hdr'
  | 'zip'
  | 'buffer'
  | 'surface'
  | 'unknown'

/** How many bytes fileKind needs at the most. */
export const FILE_KIND_BYTES = 512

const extensionKinds: ReadonlyMap<string, FileKind> = new Map(
  Object.entries<FileKind>({
    glb: 'glb',
    gltf: 'gltf',
    obj: 'obj',
    stl: 'stl',
    ply: 'ply',
    fbx: 'fbx',
    dae: 'dae',
    mtl: 'library',
    png: 'png',
    jpg: 'jpeg',
    jpeg: 'jpeg',
    webp: 'webp',
    tga: 'tga',
    ktx2: 'ktx2',
    dds: 'dds',
    tif: 'tiff',
    tiff: 'tiff',
    avif: 'avif',
    exr: 'exr',
    hdr: 'hdr',
    zip: 'zip',
    bin: 'buffer',
  }),
)

/**
 * Recognises a file by magic bytes. Formats without one count by their name, where the bytes do not speak
 * against it: glTF (JSON), OBJ and its libraries, STL, COLLADA, text FBX, TGA.
 */
export function fileKind(given: Uint8Array, path: string): FileKind {
  const head = plainText(given)
  const starts = (...bytes: number[]): boolean => bytes.every((b, i) => head[i] === b)
  if (starts(0x67, 0x6c, 0x54, 0x46)) return 'glb'
  if (starts(0x89, 0x50, 0x4e, 0x47)) return 'png'
  if (starts(0xff, 0xd8, 0xff)) return 'jpeg'
  if (
    starts(0x52, 0x49, 0x46, 0x46) &&
    head[8] === 0x57 &&
    head[9] === 0x45 &&
    head[10] === 0x42 &&
    head[11] === 0x50
  )
    return 'webp'
  if (starts(0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30)) return 'ktx2'
  if (starts(0x44, 0x44, 0x53, 0x20)) return 'dds'
  if (
    starts(0x49, 0x49, 0x2a, 0) ||
    starts(0x4d, 0x4d, 0, 0x2a) ||
    starts(0x49, 0x49, 0x2b, 0) ||
    starts(0x4d, 0x4d, 0, 0x2b)
  )
    return 'tiff'
  if (/^ftypavi[fs]/.test(String.fromCharCode(...head.subarray(4, 12)))) return 'avif'
  if (starts(0x76, 0x2f, 0x31, 0x01)) return 'exr'
  if (/^#\?(RADIANCE|RGBE)\r?\n/.test(String.fromCharCode(...head.subarray(0, 12)))) return 'hdr'
  if (starts(0x50, 0x4b, 0x03, 0x04)) return 'zip'
  if (starts(0x70, 0x6c, 0x79) && (head[3] === 0x0a || head[3] === 0x0d)) return 'ply'
  if (starts(...FBX_MAGIC)) return 'fbx'
  const named = kindByExtension(path)
  const text = named === 'obj' || named === 'library' || named === 'dae' || named === 'fbx'
  if (text) return looksLikeText(head) && (named !== 'dae' || looksLikeXml(head)) ? named : 'unknown'
  if (named === 'stl') return head.length > 0 ? 'stl' : 'unknown'
  if (named === 'surface') return looksLikeJson(head) ? 'surface' : 'unknown'
  if (named === 'gltf') return looksLikeJson(head) ? 'gltf' : 'unknown'
  if (named === 'tga') return looksLikeTga(head) ? 'tga' : 'unknown'
  return named === 'buffer' ? 'buffer' : 'unknown'
}

/** What the extension claims. */
export function kindByExtension(path: string): FileKind {
  if (path.toLowerCase().endsWith(SURFACE_ENDING)) return 'surface'
  // A point in a folder's name leaves a slash behind it, and with one no extension is known
  const dot = path.lastIndexOf('.')
  return (dot < 0 ? undefined : extensionKinds.get(path.slice(dot + 1).toLowerCase())) ?? 'unknown'
}

export const isMeshKind = (kind: FileKind): boolean =>
  ['glb', 'gltf', 'obj', 'stl', 'ply', 'fbx', 'dae'].includes(kind)
export const isTextureKind = (kind: FileKind): boolean =>
  ['png', 'jpeg', 'webp', 'tga', 'ktx2', 'dds', 'tiff', 'avif', 'exr', 'hdr'].includes(kind)

/** Whether a name is that of a mesh file. */
export const isMeshName = (path: string): boolean => isMeshKind(kindByExtension(path))
/**
 * Whether a name is that of something an asset is made of: a mesh, a texture, or what meshes keep beside
 * them.
 */
export const isAssetName = (path: string): boolean =>
  !['unknown', 'zip', 'surface'].includes(kindByExtension(path))

/**
 * Whether the facts of a mesh may depend on the bytes of another file: its geometry or its slots may stand
 * there.
 */
export function readsBeside(mesh: string, other: string): boolean {
  const kind = kindByExtension(mesh),
    beside = kindByExtension(other)
  return kind === 'gltf'
    ? beside === 'buffer' || beside === 'unknown'
    : kind === 'obj' && beside === 'library'
}

/** Whether a file of this name may name others: a mesh, or one whose bytes may turn out to be one. */
export const mayRefer = (path: string): boolean =>
  isMeshKind(kindByExtension(path)) || kindByExtension(path) === 'unknown'

/** "Kaydara FBX Binary  ". */
const FBX_MAGIC = [
  0x4b, 0x61, 0x79, 0x64, 0x61, 0x72, 0x61, 0x20, 0x46, 0x42, 0x58, 0x20, 0x42, 0x69, 0x6e, 0x61, 0x72, 0x79,
  0x20, 0x20,
]

const looksLikeText = (head: Uint8Array): boolean => head.length > 0 && !head.includes(0)

function looksLikeXml(head: Uint8Array): boolean {
  let k = head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf ? 3 : 0
  while (k < head.length && [0x20, 0x09, 0x0a, 0x0d].includes(head[k]!)) k++
  return head[k] === 0x3c
}

function looksLikeJson(head: Uint8Array): boolean {
  let k = head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf ? 3 : 0
  while (k < head.length && [0x20, 0x09, 0x0a, 0x0d].includes(head[k]!)) k++
  return head[k] === 0x7b
}

/** Colour map type, picture type and bits a texel that TGA knows. */
function looksLikeTga(head: Uint8Array): boolean {
  return (
    head.length >= 18 &&
    head[1]! <= 1 &&
    [1, 2, 3, 9, 10, 11].includes(head[2]!) &&
    [8, 15, 16, 24, 32].includes(head[16]!) &&
    head[12]! + head[13]! > 0 &&
    head[14]! + head[15]! > 0
  )
}
