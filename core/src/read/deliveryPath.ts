import { bad, good, isValidText, type Outcome } from '@stern-gate/contract'
import { isTextureKind, kindByExtension } from './fileKind'

const REMOTE = /^[a-z][a-z0-9+.-]*:/i

/**
 * Checks the path under which a file is delivered: relative, with /, staying inside. Backslashes count as
 * separators. Faults: file/unsafe-path.
 */
export function checkDeliveryPath(path: string): Outcome<string> {
  const parts = path
    .replaceAll('\\', '/')
    .split('/')
    .filter((p) => p !== '' && p !== '.')
  const refuse = (why: string) =>
    bad('file/unsafe-path', why, 'Deliver the file under a plain relative path.', { file: path })
  if (parts.includes('..')) return refuse('The path leaves the delivery.')
  if (/^([a-z]:|\/|\\)/i.test(path)) return refuse('The path is absolute.')
  if (parts.length === 0 || /[\u0000-\u001f]/.test(path) || !isValidText(path))
    return refuse('The path is empty, or holds control characters or halves of characters.')
  if (path.length > 500) return refuse('The path is longer than 500 characters.')
  return good(parts.join('/'))
}

/**
 * Path inside the delivery that a reference in the file `from` asks for. `uri` is percent-decoded here.
 * Faults: gltf/unsafe-reference when it is absolute, remote or leaves the delivery.
 */
export function referencePath(from: string, uri: string): Outcome<string> {
  const decoded = decodeReference(uri).replaceAll('\\', '/')
  const refuse = (why: string, hint: string) =>
    bad('gltf/unsafe-reference', why, hint, { file: from, reference: decoded })
  if (REMOTE.test(decoded) || decoded.startsWith('//'))
    return refuse(
      'A reference points outside: to a network address or a drive.',
      'Export with relative paths; nothing is fetched.',
    )
  if (decoded.startsWith('/'))
    return refuse('A reference is an absolute path.', 'Export with relative paths.')
  const parts = from.split('/').slice(0, -1)
  for (const part of decoded.split('/')) {
    if (part === '' || part === '.') continue
    if (part !== '..') parts.push(part)
    else if (parts.pop() === undefined)
      return refuse(
        'A reference leaves the delivery through its parent folders.',
        'Deliver the folder that holds both files, or export with the textures beside the mesh.',
      )
  }
  return good(parts.join('/'))
}

function decodeReference(uri: string): string {
  try {
    return decodeURIComponent(uri)
  } catch {
    // A lone % is not encoding but part of the name
    return uri
  }
}

export type ResolvedHow = 'path' | 'case' | 'name' | 'stem'

/**
 * Finds the delivered file that a reference means: by path, by path without regard to case, then by file name
 * if that is the only one; a picture at last by its name under another extension, if there is one such
 * picture.
 */
export function resolveReference(
  asked: string,
  delivered: readonly string[],
): { path: string; how: ResolvedHow } | null {
  // Most assets have a few files, and most references fit: then no index is worth its making
  if (delivered.length <= FEW ? delivered.includes(asked) : indexOf(delivered).paths.has(asked))
    return { path: asked, how: 'path' }
  const known = indexOf(delivered)
  const lower = asked.toLowerCase()
  const byCase = known.lower.get(lower)
  if (byCase !== undefined) return { path: byCase, how: 'case' }
  const byName = known.names.get(fileName(lower))
  if (byName !== undefined) return only(byName, 'name')
  return mayBePicture(asked) ? only(known.stems.get(fileStem(lower)) ?? [], 'stem') : null
}

const FEW = 32

const only = (found: readonly string[], how: ResolvedHow): { path: string; how: ResolvedHow } | null =>
  found.length === 1 ? { path: found[0]!, how } : null

interface PathIndex {
  paths: ReadonlySet<string>
  lower: ReadonlyMap<string, string>
  names: ReadonlyMap<string, string[]>
  stems: ReadonlyMap<string, string[]>
}

/** A delivery's list is asked for each reference of each mesh; it is never edited in place. */
const indices = new WeakMap<readonly string[], PathIndex>()

function indexOf(delivered: readonly string[]): PathIndex {
  const known = indices.get(delivered)
  if (known) return known
  const lower = new Map<string, string>(),
    names = new Map<string, string[]>(),
    stems = new Map<string, string[]>()
  const add = (map: Map<string, string[]>, key: string, path: string): void =>
    void (map.get(key)?.push(path) ?? map.set(key, [path]))
  for (const path of delivered) {
    const small = path.toLowerCase()
    if (!lower.has(small)) lower.set(small, path)
    add(names, fileName(small), path)
    if (isTextureKind(kindByExtension(path))) add(stems, fileStem(small), path)
  }
  const made = { paths: new Set(delivered), lower, names, stems }
  indices.set(delivered, made)
  return made
}

/** Exporters ask for working files of any kind, of which a picture is delivered under the same name. */
const mayBePicture = (path: string): boolean =>
  isTextureKind(kindByExtension(path)) || kindByExtension(path) === 'unknown'

/** Whether a text names a folder inside a delivery, plainly; empty for the delivery itself. */
export const isSafeFolder = (folder: string): boolean =>
  folder === '' ||
  folder.split('/').every((part) => /^[A-Za-z0-9_.\- ]+$/.test(part) && !/^[. ]|[. ]$/.test(part))

/**
 * What systems leave beside files in folders and archives: names that begin with a dot, previews, folder
 * settings. Nobody means to deliver them.
 */
export const isSystemFile = (path: string): boolean =>
  path
    .split('/')
    .some((part) => part === '__MACOSX' || (part.startsWith('.') && part !== '.' && part !== '..')) ||
  /(^|\/)(Thumbs\.db|desktop\.ini)$/i.test(path)

/** Last part of a path. */
export const fileName = (path: string): string => path.slice(path.lastIndexOf('/') + 1)

/** File name without its last extension. */
export function fileStem(path: string): string {
  const name = fileName(path),
    dot = name.lastIndexOf('.')
  return dot > 0 ? name.slice(0, dot) : name
}
