import { bad, good, type Outcome } from '@stern-gate/contract'
import { fileName, referencePath } from './deliveryPath'
import type { GltfContainer } from './gltfContainer'

/** One file that a mesh asks for. */
export interface GltfReference {
  kind: 'buffer' | 'image' | 'library'
  index: number
  uri: string
  /** Path inside the delivery that the URI means; of an unsafe one the file name alone. */
  asked: string
  /** Why the URI is never followed; null when it is a plain relative path. */
  unsafe: string | null
}

/**
 * Lists the external files of an opened glTF; data URIs are not references. A picture that is asked for by an
 * absolute, remote or escaping path is looked for by its name alone and marked; geometry behind such a path
 * refuses the file. Faults: gltf/unsafe-reference.
 */
export function gltfReferences(container: GltfContainer, path: string): Outcome<GltfReference[]> {
  const found: GltfReference[] = []
  for (const kind of ['buffer', 'image'] as const) {
    const list = kind === 'buffer' ? container.json.buffers : container.json.images
    for (const [index, { uri }] of list.entries()) {
      if (uri === undefined || isDataUri(uri)) continue
      const asked = referencePath(path, uri)
      if (asked.ok) found.push({ kind, index, uri, asked: asked.value, unsafe: null })
      else if (kind === 'buffer') return asked
      else found.push({ kind, index, uri, asked: nameInUri(uri), unsafe: asked.fault.why })
    }
  }
  for (const [index, { uri }] of (container.origin?.companions ?? []).entries())
    found.push({ kind: 'library', index, uri, ...libraryPlace(path, uri) })
  return good(found)
}

/**
 * Where a material library is looked for: its path as it is written, or its name alone where that path leads
 * out of the delivery.
 */
export function libraryPlace(path: string, written: string): { asked: string; unsafe: string | null } {
  const asked = referencePath(
    path,
    written
      .split('/')
      .map((part) => (/^[A-Za-z]:$/.test(part) ? part : encodeURIComponent(part)))
      .join('/'),
  )
  return asked.ok
    ? { asked: asked.value, unsafe: null }
    : { asked: nameInUri(encodeURIComponent(fileName(written))), unsafe: asked.fault.why }
}

/** Last part of a URI, whatever separates its parts; query and fragment left out. */
function nameInUri(uri: string): string {
  const plain = uri.replace(/[?#].*$/, '')
  let decoded = plain
  try {
    decoded = decodeURIComponent(plain)
  } catch {
    // A lone % is part of the name
  }
  return fileName(decoded.replaceAll('\\', '/').replace(/\/+$/, '')).replace(/^\.+$/, '') || 'picture'
}

export const isDataUri = (uri: string): boolean => /^data:/i.test(uri)

const BASE64 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'

/** Bytes of a base64 or percent-encoded data URI. Faults: gltf/bad-structure. */
export function dataUriBytes(uri: string, part: string): Outcome<Uint8Array> {
  const comma = uri.indexOf(',')
  if (comma < 0)
    return bad('gltf/bad-structure', 'A data URI has no comma and so no data.', 'Export the file again.', {
      part,
    })
  const body = uri.slice(comma + 1)
  if (!/;base64$/i.test(uri.slice(0, comma))) return good(new TextEncoder().encode(decodeURIComponent(body)))
  return decodeBase64(body, part)
}

function decodeBase64(text: string, part: string): Outcome<Uint8Array> {
  const table = base64Table()
  const length = text.replace(/[=\s]+$/, '').length
  const out = new Uint8Array(Math.floor((length * 3) / 4))
  let bits = 0,
    held = 0,
    at = 0
  for (let k = 0; k < length; k++) {
    const value = table[text.charCodeAt(k)] ?? 255
    if (value === 255)
      return bad(
        'gltf/bad-structure',
        `A data URI holds a character that is not base64 at position ${k}.`,
        'Export the file again.',
        { part },
      )
    held = (held << 6) | value
    bits += 6
    if (bits >= 8) {
      bits -= 8
      out[at++] = (held >> bits) & 255
    }
  }
  return good(out.subarray(0, at))
}

function base64Table(): Uint8Array {
  const table = new Uint8Array(128).fill(255)
  for (let i = 0; i < 64; i++) table[BASE64.charCodeAt(i)] = i
  table['-'.charCodeAt(0)] = 62
  table['_'.charCodeAt(0)] = 63
  return table
}
