import type { PlyElement, PlyHeader, PlyProperty, PlyType } from './plyHeader'
import { TextCursor } from './textCursor'

/** Gives the values of a PLY body one after the other; null or false where the file ends before. */
export interface PlyValues {
  one: (property: PlyProperty) => number[] | null
  list: (property: PlyProperty) => number[] | null
  /** All values of an element without lists. */
  row: (element: PlyElement, out: Float64Array) => boolean
}

const sizes: Record<PlyType, number> = {
  char: 1,
  uchar: 1,
  short: 2,
  ushort: 2,
  int: 4,
  uint: 4,
  float: 4,
  double: 8,
}

export const plyValues = (bytes: Uint8Array, header: PlyHeader): PlyValues =>
  header.order === 'ascii'
    ? textValues(bytes.subarray(header.bodyAt))
    : binaryValues(bytes.subarray(header.bodyAt), header.order === 'little')

function textValues(bytes: Uint8Array): PlyValues {
  const cursor = new TextCursor(bytes)
  const next = (): number | null => {
    while (cursor.atLineEnd()) {
      if (cursor.done) return null
      cursor.nextLine()
    }
    return cursor.number()
  }
  return {
    one: () => {
      const value = next()
      return value === null ? null : [value]
    },
    list() {
      const count = next(),
        out: number[] = []
      if (count === null) return null
      for (let k = 0; k < count; k++) {
        const value = next()
        if (value === null) return null
        out.push(value)
      }
      return out
    },
    row(element, out) {
      for (let k = 0; k < element.properties.length; k++) {
        const value = next()
        if (value === null) return false
        out[k] = value
      }
      return true
    },
  }
}

function binaryValues(bytes: Uint8Array, little: boolean): PlyValues {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 0
  const get: Record<PlyType, () => number> = {
    char: () => view.getInt8(at),
    uchar: () => view.getUint8(at),
    short: () => view.getInt16(at, little),
    ushort: () => view.getUint16(at, little),
    int: () => view.getInt32(at, little),
    uint: () => view.getUint32(at, little),
    float: () => view.getFloat32(at, little),
    double: () => view.getFloat64(at, little),
  }
  const next = (type: PlyType): number | null => {
    if (at + sizes[type] > bytes.length) return null
    const value = get[type]()
    at += sizes[type]
    return value
  }
  return {
    one: ({ type }) => {
      const value = next(type)
      return value === null ? null : [value]
    },
    list({ type, list }) {
      const count = next(list!),
        out: number[] = []
      if (count === null || count < 0 || at + count * sizes[type] > bytes.length) return null
      for (let k = 0; k < count; k++) out.push(next(type)!)
      return out
    },
    row({ properties }, out) {
      for (let k = 0; k < properties.length; k++) {
        const { type, list } = properties[k]!
        const count = list ? next(list) : 1
        if (count === null || count < 0 || at + count * sizes[type] > bytes.length) return false
        for (let i = 0; i < count; i++) out[k] = next(type)!
      }
      return true
    },
  }
}
