import {
  ANY,
  formats,
  meshFormatTable,
  SURFACE_ENDING,
  textureFormatTable,
  type FileKind,
  type Format,
} from '@stern-gate/contract'
import { plainText } from './plainText'

/** How many bytes fileKind needs at the most. */
export const FILE_KIND_BYTES = 512

type KnownKind = Exclude<FileKind, 'unknown'>
const known = Object.entries(formats) as [KnownKind, Format][]
const kindOfExtension: ReadonlyMap<string, FileKind> = new Map(
  known.flatMap(([kind, { extensions }]) => extensions.map((extension) => [extension, kind] as const)),
)

/**
 * Recognises a file by magic bytes. Formats without one count by their name, where the bytes do not speak
 * against it: glTF (JSON), OBJ and its libraries, STL, COLLADA, text FBX, TGA.
 */
export function fileKind(given: Uint8Array, path: string): FileKind {
  const head = plainText(given)
  const marked = known.find(([, { marks }]) => marks.some((mark) => beginsWith(head, mark)))
  if (marked) return marked[0]
  const named = kindByExtension(path)
  if (named === 'unknown') return named
  const { looks } = formats[named]
  return looks !== null && looksLike[looks](head) ? named : 'unknown'
}

function beginsWith(head: Uint8Array, mark: string): boolean {
  for (let k = 0; k < mark.length; k++) if (mark[k] !== ANY && head[k] !== mark.charCodeAt(k)) return false
  return true
}

/** What the extension claims. */
export function kindByExtension(path: string): FileKind {
  if (path.toLowerCase().endsWith(SURFACE_ENDING)) return 'surface'
  // A point in a folder's name leaves a slash behind it, and with one no extension is known
  const dot = path.lastIndexOf('.')
  return (dot < 0 ? undefined : kindOfExtension.get(path.slice(dot + 1).toLowerCase())) ?? 'unknown'
}

export const isMeshKind = (kind: FileKind): boolean => kind in meshFormatTable
export const isTextureKind = (kind: FileKind): boolean => kind in textureFormatTable
/** What a format's files end with, with the point; for `surface` and `unknown` nothing. */
export const extensionOf = (kind: FileKind): string => {
  const [first] = kind === 'unknown' ? [] : formats[kind].extensions
  return first === undefined ? '' : `.${first}`
}

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

/** What bytes without a mark have to look like. */
const looksLike: Record<NonNullable<Format['looks']>, (head: Uint8Array) => boolean> = {
  text: looksLikeText,
  xml: (head) => looksLikeText(head) && beginsWithSign(head, 0x3c),
  json: (head) => beginsWithSign(head, 0x7b),
  tga: looksLikeTga,
  something: (head) => head.length > 0,
  anything: () => true,
}

function looksLikeText(head: Uint8Array): boolean {
  return head.length > 0 && !head.includes(0)
}

/** Behind white space. */
function beginsWithSign(head: Uint8Array, sign: number): boolean {
  let k = head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf ? 3 : 0
  while (k < head.length && [0x20, 0x09, 0x0a, 0x0d].includes(head[k]!)) k++
  return head[k] === sign
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
