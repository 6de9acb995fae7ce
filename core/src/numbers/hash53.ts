/**
 * 53-bit hash of a text (two rounds of multiply and xor-shift, Bryc 2018, public domain); not for security.
 */
export function hash53(text: string): string {
  let a = 0xdeadbeef,
    b = 0x41c6ce57
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    a = Math.imul(a ^ c, 2654435761)
    b = Math.imul(b ^ c, 1597334677)
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909)
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909)
  return base36(4294967296 * (2097151 & b) + (a >>> 0))
}

/**
 * Eleven digits of a whole number below 2⁵³; toString(36) takes a way for fractions that is ten times as
 * long.
 */
function base36(value: number): string {
  let digits = '',
    left = value
  for (let i = 0; i < 11; i++) {
    const next = Math.floor(left / 36)
    digits = DIGITS[left - next * 36]! + digits
    left = next
  }
  return digits
}

const DIGITS = '0123456789abcdefghijklmnopqrstuvwxyz'
