import { bad, cutText, good, type Outcome } from '@stern-gate/contract'

export type PlyType = 'char' | 'uchar' | 'short' | 'ushort' | 'int' | 'uint' | 'float' | 'double'
export interface PlyProperty {
  name: string
  type: PlyType
  /** Type of the count, where it is a list. */ list: PlyType | null
}
export interface PlyElement {
  name: string
  count: number
  properties: PlyProperty[]
}
export interface PlyHeader {
  order: 'ascii' | 'little' | 'big'
  elements: PlyElement[]
  /** Where the body begins. */ bodyAt: number
  texture: string | null
  comment: string
  /** Lines that are not known in a head, and were passed over. */
  unknown: number
}

const typeNames: Record<string, PlyType> = {
  char: 'char',
  int8: 'char',
  uchar: 'uchar',
  uint8: 'uchar',
  short: 'short',
  int16: 'short',
  ushort: 'ushort',
  uint16: 'ushort',
  int: 'int',
  int32: 'int',
  uint: 'uint',
  uint32: 'uint',
  float: 'float',
  float32: 'float',
  double: 'double',
  float64: 'double',
}
/** A head longer than this is none. */
const MOST_HEADER_BYTES = 65_536

/** Reads the head of a PLY. Faults: mesh/bad-structure, mesh/truncated. */
export function readPlyHeader(bytes: Uint8Array): Outcome<PlyHeader> {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, MOST_HEADER_BYTES))
  const end = /(^|[\r\n])end_header[ \t]*(\r\n|\n|\r)/.exec(text)
  if (!text.startsWith('ply')) return broken('The file does not begin with “ply”.')
  if (!end)
    return bad(
      'mesh/truncated',
      'The head of the PLY does not end.',
      'Export or copy it again: the transfer broke off.',
      { part: 'header' },
    )
  const header: PlyHeader = {
    order: 'ascii',
    elements: [],
    bodyAt: end.index + end[0].length,
    texture: null,
    comment: '',
    unknown: 0,
  }
  let format = ''
  for (const line of text
    .slice(0, end.index)
    .split(/\r\n|\n|\r/)
    .slice(1)) {
    const words = line.trim().split(/\s+/),
      element = header.elements.at(-1)
    if (words[0] === 'format') format = words[1] ?? ''
    else if (words[0] === 'comment' || words[0] === 'obj_info')
      noteComment(header, line.trim().replace(/^\S+\s*/, ''))
    else if (words[0] === 'element') {
      const count = Number(words[2])
      if (!words[1] || !Number.isInteger(count) || count < 0)
        return broken(`“${cutText(line, 60, '…')}” names no element with a count.`)
      header.elements.push({ name: words[1], count, properties: [] })
    } else if (words[0] === 'property') {
      const list = words[1] === 'list',
        type = typeNames[words[list ? 3 : 1] ?? ''],
        name = words[list ? 4 : 2],
        countType = list ? typeNames[words[2] ?? ''] : null
      if (!element || !type || !name || countType === undefined)
        return broken(`“${cutText(line, 60, '…')}” names no property with a type.`)
      element.properties.push({ name, type, list: countType })
    } else if (words[0]) header.unknown++
  }
  const order = ({ ascii: 'ascii', binary_little_endian: 'little', binary_big_endian: 'big' } as const)[
    format
  ]
  return order ? good({ ...header, order }) : broken(`The format “${cutText(format, 40, '…')}” is not known.`)
}

const broken = (why: string) =>
  bad('mesh/bad-structure', why, 'Export the file again; it is damaged or something else.', {
    part: 'header',
  })

function noteComment(header: PlyHeader, text: string): void {
  const texture = /^TextureFile\s+(.+)$/i.exec(text)
  if (texture) header.texture ??= texture[1]!.trim()
  else if (header.comment === '') header.comment = cutText(text, 200)
}
