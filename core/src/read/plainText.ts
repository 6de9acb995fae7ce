/** How a text is encoded, by the mark at its beginning. */
type Encoding = 'utf-16le' | 'utf-16be' | 'utf-8'

function encodingOf(bytes: Uint8Array): Encoding | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le'
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be'
  return bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 'utf-8' : null
}

/**
 * The bytes of a text as UTF-8 without a mark at its beginning, whatever editor saved it: what has a mark of
 * UTF-16 is converted, a mark of UTF-8 is left out, all else comes back as it is. Binary formats begin with none
 * of these marks.
 */
export function plainText(bytes: Uint8Array): Uint8Array {
  const encoding = encodingOf(bytes)
  if (encoding === null) return bytes
  if (encoding === 'utf-8') return bytes.subarray(3)
  const even = bytes.subarray(2, bytes.length - (bytes.length % 2))
  return new TextEncoder().encode(new TextDecoder(encoding).decode(even))
}
