/**
 * Takes bits off a block of 16 bytes, lowest first, at most 16 at a time. One reader serves all blocks: it
 * begins anew with each.
 */
export interface BitReader {
  begin: (bytes: Uint8Array, at: number) => void
  take: (count: number) => number
}

export function bitReader(): BitReader {
  // Four bytes more, so that the last bits are read as all others
  const block = new Uint8Array(20)
  let bit = 0
  return {
    begin(bytes, at) {
      for (let k = 0; k < 16; k++) block[k] = bytes[at + k]!
      bit = 0
    },
    take(count) {
      const byte = bit >> 3
      const four =
        block[byte]! | (block[byte + 1]! << 8) | (block[byte + 2]! << 16) | (block[byte + 3]! << 24)
      const value = (four >>> (bit & 7)) & ((1 << count) - 1)
      bit += count
      return value
    },
  }
}
