/** Takes bits off a block, lowest first. */
export function bitReader(bytes: Uint8Array, at: number): (count: number) => number {
  let bit = 0
  return (count) => {
    let value = 0
    for (let i = 0; i < count; i++, bit++) value |= ((bytes[at + (bit >> 3)]! >> (bit & 7)) & 1) << i
    return value
  }
}
