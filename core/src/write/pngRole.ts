import { good, type Outcome } from '@stern-gate/contract'
import { chunkData, pngChunks, ROLE_KEYWORD } from '../read/readPngHeader'
import { joinBytes, pngChunk } from './pngColourSpace'

/**
 * Returns the PNG with a text chunk that says what the texture carries, in place of an earlier one. Faults:
 * those of a damaged PNG.
 */
export function withPngRole(bytes: Uint8Array, role: string): Outcome<Uint8Array> {
  const chunks = pngChunks(bytes)
  if (!chunks.ok) return chunks
  const keyword = new TextEncoder().encode(`${ROLE_KEYWORD}\0`)
  const isRole = (data: Uint8Array): boolean => keyword.every((b, i) => data[i] === b)
  const pieces: Uint8Array[] = [bytes.subarray(0, 8)]
  for (const chunk of chunks.value) {
    if (chunk.type === 'tEXt' && isRole(chunkData(bytes, chunk))) continue
    pieces.push(bytes.subarray(chunk.offset, chunk.offset + 12 + chunk.length))
    if (chunk.type === 'IHDR')
      pieces.push(pngChunk('tEXt', new TextEncoder().encode(`${ROLE_KEYWORD}\0${role}`)))
  }
  return good(joinBytes(pieces))
}
