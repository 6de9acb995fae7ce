const NEWLINE = 0x0a,
  RETURN = 0x0d,
  SPACE = 0x20,
  TAB = 0x09,
  BACKSLASH = 0x5c
const POWERS = Float64Array.from({ length: 46 }, (_, i) => 10 ** i)

/**
 * Walks over the bytes of a text format, line by line and word by word, without making strings of what is a
 * number.
 */
export class TextCursor {
  at = 0
  line = 1
  private readonly end: number
  constructor(private readonly bytes: Uint8Array) {
    this.end = bytes.length
  }

  get done(): boolean {
    return this.at >= this.end
  }
  /** The byte under the cursor; −1 at the end. */
  get byte(): number {
    return this.at < this.end ? this.bytes[this.at]! : -1
  }

  /** Goes over blanks within the line; a backslash before the line's end joins the next line to it. */
  skipBlanks(): void {
    for (; this.at < this.end; this.at++) {
      const c = this.bytes[this.at]!
      if (c === BACKSLASH && this.isLineEnd(this.at + 1)) {
        this.at += this.bytes[this.at + 1] === RETURN && this.bytes[this.at + 2] === NEWLINE ? 2 : 1
        this.line++
      } else if (c !== SPACE && c !== TAB) return
    }
  }
  private isLineEnd(k: number): boolean {
    return k < this.end && (this.bytes[k] === NEWLINE || this.bytes[k] === RETURN)
  }

  atLineEnd(): boolean {
    this.skipBlanks()
    return this.at >= this.end || this.isLineEnd(this.at)
  }

  /** To the start of the next line, whatever is left on this one. */
  nextLine(): void {
    while (this.at < this.end && !this.isLineEnd(this.at)) this.at++
    if (this.at >= this.end) return
    this.at += this.bytes[this.at] === RETURN && this.bytes[this.at + 1] === NEWLINE ? 2 : 1
    this.line++
  }

  /** The next word of the line; empty at its end. */
  word(): string {
    this.skipBlanks()
    const from = this.at
    while (this.at < this.end && this.bytes[this.at]! > SPACE) this.at++
    return decode(this.bytes.subarray(from, this.at))
  }

  /** The rest of the line without blanks around it. */
  rest(): string {
    this.skipBlanks()
    const from = this.at
    while (this.at < this.end && !this.isLineEnd(this.at)) this.at++
    return decode(this.bytes.subarray(from, this.at)).trim()
  }

  /** A decimal number; NaN when the next word is none (the cursor is then behind that word). */
  number(): number {
    this.skipBlanks()
    const bytes = this.bytes,
      from = this.at
    let k = from,
      sign = 1,
      mantissa = 0,
      digits = 0,
      scale = 0
    if (bytes[k] === 0x2d) {
      sign = -1
      k++
    } else if (bytes[k] === 0x2b) k++
    let c = bytes[k]!
    for (; c >= 0x30 && c <= 0x39; c = bytes[++k]!) {
      digits++
      if (mantissa < 1e15) mantissa = mantissa * 10 + (c - 0x30)
      else scale++
    }
    if (c === 0x2e) {
      for (c = bytes[++k]!; c >= 0x30 && c <= 0x39; c = bytes[++k]!) {
        digits++
        if (mantissa < 1e15) {
          mantissa = mantissa * 10 + (c - 0x30)
          scale--
        }
      }
    }
    if (digits > 0 && (c === 0x65 || c === 0x45)) {
      let e = k + 1,
        negative = false,
        exponent = 0
      if (bytes[e] === 0x2d) {
        negative = true
        e++
      } else if (bytes[e] === 0x2b) e++
      const first = e
      for (c = bytes[e]!; c >= 0x30 && c <= 0x39; c = bytes[++e]!)
        exponent = Math.min(9999, exponent * 10 + (c - 0x30))
      if (e > first) {
        scale += negative ? -exponent : exponent
        k = e
        c = bytes[k]!
      }
    }
    // Not a number at all, or more of a word behind it: nan, inf, 1.#IND
    if (digits === 0 || (k < this.end && c > SPACE)) return this.oddNumber(from)
    this.at = k
    if (scale === 0) return sign * mantissa
    if (scale < 0) return -scale <= 45 ? (sign * mantissa) / POWERS[-scale]! : sign * mantissa * 10 ** scale
    return scale <= 45 ? sign * mantissa * POWERS[scale]! : sign * mantissa * 10 ** scale
  }

  private oddNumber(from: number): number {
    this.at = from
    const word = this.word().toLowerCase()
    return /^[+-]?inf(inity)?$/.test(word) ? (word.startsWith('-') ? -Infinity : Infinity) : NaN
  }

  /** A whole number at the cursor, without blanks before it; 0 when there is none. */
  whole(): number {
    const bytes = this.bytes
    let negative = false,
      value = 0
    if (bytes[this.at] === 0x2d) {
      negative = true
      this.at++
    }
    for (let c = bytes[this.at]!; c >= 0x30 && c <= 0x39; c = bytes[++this.at]!)
      value = value * 10 + (c - 0x30)
    return negative ? -value : value
  }
}

const utf8 = new TextDecoder('utf-8')
const decode = (bytes: Uint8Array): string => utf8.decode(bytes)
