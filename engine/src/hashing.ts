import { createHash } from 'node:crypto'

/** SHA-256 in small hexadecimal letters. */
export const sha256 = (bytes: Uint8Array | string): string => createHash('sha256').update(bytes).digest('hex')
