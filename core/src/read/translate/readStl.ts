import { bad, good, type Outcome } from '@stern-gate/contract'
import { pointIds } from '../../geometry/pointIds'
import { fileStem } from '../deliveryPath'
import type { GltfContainer } from '../gltfContainer'
import { buildContainer } from './containerBuilder'
import { GrowingFloats } from './growing'
import { TextCursor } from './textCursor'

const HEADER_BYTES = 84,
  TRIANGLE_BYTES = 50

/**
 * Reads STL, binary (little-endian) or text. Numbers are taken as metres with Y up, since the format declares
 * neither. Triangles that share a place share its vertex; the facet normals are those of the faces and are
 * not kept. Faults: mesh/truncated, mesh/bad-structure, mesh/nothing-drawn.
 */
export function readStl(bytes: Uint8Array, path: string): Outcome<GltfContainer> {
  const read = isTextStl(bytes) ? readText(bytes, fileStem(path)) : readBinary(bytes, fileStem(path))
  if (!read.ok) return read
  if (read.value.places.length === 0)
    return bad('mesh/nothing-drawn', 'The STL holds no triangle.', 'Export it again.')
  const { name, generator, places, lost } = read.value
  return good(
    buildContainer({
      format: 'stl',
      generator,
      unitMetres: null,
      upAxis: null,
      lost,
      companions: [],
      slots: [],
      nodes: [{ name, parts: [{ slot: null, ...sharedPlaces(places) }], children: [] }],
    }),
  )
}

interface StlTriangles {
  name: string
  generator: string
  places: Float32Array
  lost: string[]
}

/**
 * Text begins with `solid`, after blanks and a byte order mark at most; so do some binary files, whose length
 * then tells.
 */
export function isTextStl(bytes: Uint8Array): boolean {
  const from = textStart(bytes)
  if (String.fromCharCode(...bytes.subarray(from, from + 5)).toLowerCase() !== 'solid') return false
  if (bytes.length < HEADER_BYTES) return true
  const count = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true)
  return bytes.length !== HEADER_BYTES + count * TRIANGLE_BYTES
}

const BYTE_ORDER_MARK = [0xef, 0xbb, 0xbf]

function textStart(bytes: Uint8Array): number {
  let at = BYTE_ORDER_MARK.every((b, i) => bytes[i] === b) ? 3 : 0
  while (bytes[at] === 0x20 || (bytes[at]! >= 0x09 && bytes[at]! <= 0x0d)) at++
  return at
}

function readBinary(bytes: Uint8Array, stem: string): Outcome<StlTriangles> {
  if (bytes.length < HEADER_BYTES)
    return bad(
      'mesh/truncated',
      `The file ends after ${bytes.length} bytes; the head of an STL has ${HEADER_BYTES}.`,
      'Export or copy it again.',
      { offset: bytes.length },
    )
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
    count = view.getUint32(80, true)
  const there = Math.floor((bytes.length - HEADER_BYTES) / TRIANGLE_BYTES)
  if (there < count)
    return bad(
      'mesh/truncated',
      `The head claims ${count} triangles, the file has room for ${there}.`,
      'Export or copy it again: the transfer broke off.',
      { offset: bytes.length },
    )
  const places = new Float32Array(count * 9)
  let marked = 0
  for (let t = 0, at = HEADER_BYTES + 12; t < count; t++, at += TRIANGLE_BYTES) {
    for (let k = 0; k < 9; k++) places[t * 9 + k] = view.getFloat32(at + k * 4, true)
    if (view.getUint16(at + 36, true) !== 0) marked++
  }
  const head = new TextDecoder('latin1')
    .decode(bytes.subarray(0, 80))
    .replace(/[^\x20-\x7e]+/g, ' ')
    .trim()
  return good({
    name: stem,
    generator: head,
    places,
    lost: marked > 0 ? [`${marked} × attribute of a triangle (colours of some exporters)`] : [],
  })
}

/** Goes by words, not by lines: some exporters write a facet, or the whole solid, on one line. */
function readText(bytes: Uint8Array, stem: string): Outcome<StlTriangles> {
  const cursor = new TextCursor(bytes),
    places = new GrowingFloats()
  cursor.at = textStart(bytes) + 'solid'.length
  const title = cursor.rest()
  const damaged = (why: string, line = cursor.line) =>
    bad('mesh/bad-structure', why, 'Export the file again; it is damaged.', { part: `line ${line}` })
  let ended = false,
    facetFrom = 0
  while (!cursor.done) {
    if (cursor.atLineEnd()) {
      cursor.nextLine()
      continue
    }
    const word = cursor.word().toLowerCase()
    ended = word === 'endsolid'
    if (word === 'solid' || word === 'endsolid') cursor.rest()
    else if (word === 'facet') facetFrom = places.length
    else if (word === 'normal') for (let k = 0; k < 3 && !cursor.atLineEnd(); k++) cursor.number()
    else if (word === 'vertex')
      for (let k = 0; k < 3; k++) {
        if (cursor.atLineEnd())
          return cursor.done
            ? cutShort(cursor.line)
            : damaged(`Line ${cursor.line} does not hold three numbers.`)
        places.push(cursor.number())
      }
    else if (word === 'endfacet') {
      const corners = (places.length - facetFrom) / 3
      if (corners !== 3)
        return damaged(
          `The facet that ends on line ${cursor.line} has ${corners} corners; an STL is made of triangles.`,
        )
    } else if (!['outer', 'loop', 'endloop'].includes(word))
      return damaged(`Line ${cursor.line} holds “${word.slice(0, 24)}”, which an STL does not know.`)
  }
  if (!ended) return cutShort(cursor.line)
  return good({ name: title.split(/\s+/)[0] || stem, generator: title, places: places.take(), lost: [] })
}

const cutShort = (line: number) =>
  bad(
    'mesh/truncated',
    'The text breaks off before its end.',
    'Export or copy it again: the transfer broke off.',
    { part: `line ${line}` },
  )

/** Vertices out of a row of triangles: one for each different place. */
export function sharedPlaces(places: Float32Array): { positions: Float32Array; indices: Uint32Array } {
  const { ids, count } = pointIds(places)
  const positions = new Float32Array(count * 3)
  for (let i = 0; i < ids.length; i++)
    for (let k = 0; k < 3; k++) positions[ids[i]! * 3 + k] = places[i * 3 + k]!
  return { positions, indices: new Uint32Array(ids) }
}
