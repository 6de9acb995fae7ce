import { cutText, validText, type MeshFilePart } from '@stern-gate/contract'
import type { GltfJson } from '../read/gltfSchema'

type Origin = NonNullable<MeshFilePart['origin']>

/** Some files carry a whole licence. */
const LONGEST = 400

/** Keys of XMP that say where something came from, whatever prefix they are written with. */
const keys: Readonly<Record<keyof Omit<Origin, 'copyright'>, RegExp>> = {
  author: /(^|:)(creator|author)$/i,
  terms: /(^|:)(rights|usageterms|license|licence)$/i,
  source: /(^|:)source$/i,
  link: /(^|:)(webstatement|identifier|url)$/i,
}

/**
 * What a glTF says of where it came from: `asset.copyright`, and what the extension KHR_xmp_json_ld says of its
 * author, terms and source. Null where it says nothing.
 */
export function measureOrigin(json: GltfJson): MeshFilePart['origin'] {
  const { asset, extensions } = json as unknown as {
    asset?: { copyright?: unknown }
    extensions?: { KHR_xmp_json_ld?: { packets?: unknown } }
  }
  const packets = extensions?.KHR_xmp_json_ld?.packets
  const pairs = (Array.isArray(packets) ? packets : []).flatMap((packet: unknown) =>
    typeof packet === 'object' && packet !== null ? Object.entries(packet) : [],
  )
  const said = (pattern: RegExp): string => {
    for (const [key, value] of pairs) if (pattern.test(key) && plain(value) !== '') return plain(value)
    return ''
  }
  const origin: Origin = {
    copyright: plain(asset?.copyright),
    author: said(keys.author),
    terms: said(keys.terms),
    source: said(keys.source),
    link: said(keys.link),
  }
  return Object.values(origin).some((v) => v !== '') ? origin : null
}

/** Text of a value: lists and language alternatives of XMP give their first text. */
function plain(value: unknown, depth = 0): string {
  if (typeof value === 'string') return cutText(validText(value.trim()), LONGEST, '…')
  if (typeof value !== 'object' || value === null || depth > 4) return ''
  for (const inner of Object.values(value)) {
    const text = plain(inner, depth + 1)
    // A tag of a language is no text, and neither is the type of a list
    if (text !== '' && !/^(x-default|[a-z]{2}(-[A-Z]{2})?|rdf:\w+)$/.test(text)) return text
  }
  return ''
}
