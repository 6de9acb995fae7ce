import { bad, good, type Outcome } from '@stern-gate/contract'
import { fileStem } from '../deliveryPath'
import type { GltfContainer } from '../gltfContainer'
import {
  buildContainer,
  type TranslatedNode,
  type TranslatedPart,
  type TranslatedSlot,
} from './containerBuilder'
import { cutPolygon } from './cutPolygon'
import { GrowingFloats, GrowingInts } from './growing'
import { joinCorners } from './joinCorners'
import { plainText } from '../plainText'
import { readMtl } from './readMtl'
import { TextCursor } from './textCursor'

/**
 * Triangles of one object with one slot: three numbers a corner (place, UV, normal), counted from 0; −1:
 * none.
 */
interface Group {
  slot: string | null
  corners: GrowingInts
}
interface ObjObject {
  name: string
  groups: Map<string | null, Group>
}

interface ObjState {
  places: GrowingFloats
  uvs: GrowingFloats
  normals: GrowingFloats
  colours: GrowingFloats
  objects: ObjObject[]
  libraries: string[]
  generator: string
  other: Map<string, number>
  faces: number
  /** Lines of faces that name what is not there, and what is wrong with the first of them. */
  leftOut: number[]
  whyLeftOut: string | null
  /** Place, UV and normal of each corner of the face that is read. */
  face: number[]
}

/**
 * Reads OBJ with its material libraries. Numbers are taken as metres with Y up, since the format declares
 * neither. Polygons become triangles by one fixed rule. `resource` gives the bytes of a library beside it, or null.
 * Faults: mesh/bad-structure, mesh/out-of-bounds, mesh/nothing-drawn.
 */
export function readObj(
  bytes: Uint8Array,
  path: string,
  resource: (asked: string) => Uint8Array | null,
): Outcome<GltfContainer> {
  const parsed = parseObj(bytes, fileStem(path))
  if (!parsed.ok) return parsed
  const state = parsed.value
  if (state.leftOut.length > state.faces)
    return bad(
      'mesh/out-of-bounds',
      `Line ${state.leftOut[0]!}: ${state.whyLeftOut!}`,
      'Export the file again; its faces and vertices do not belong together.',
      { part: `line ${state.leftOut[0]!}` },
    )
  const libraries = state.libraries.map((uri) => ({ uri, bytes: resource(uri) }))
  const read = libraries.flatMap((l) => (l.bytes ? [readMtl(plainText(l.bytes))] : []))
  const slots = slotsOf(
    state,
    read.flatMap((r) => r.slots),
  )
  const nodes = state.objects.flatMap((o): TranslatedNode[] => {
    const parts = [...o.groups.values()]
      .filter((g) => g.corners.length > 0)
      .map((g) => partOf(g, state, slots))
    return parts.length > 0 ? [{ name: o.name, parts, children: [] }] : []
  })
  if (nodes.length === 0)
    return bad(
      'mesh/nothing-drawn',
      'The OBJ holds no face.',
      'Export it with its faces; points and curves alone make no mesh.',
    )
  return good(
    buildContainer({
      format: 'obj',
      generator: state.generator,
      unitMetres: null,
      upAxis: null,
      polygons: state.faces - state.leftOut.length,
      lost: [
        ...facesLeftOut(state),
        ...[...state.other].map(([word, n]) => `${n} × ${word}`),
        ...read.flatMap((r) => r.lost),
      ],
      companions: libraries.map(({ uri, bytes: found }) => ({ uri, sizeBytes: found?.length ?? null })),
      nodes,
      slots: slots.list,
    }),
  )
}

/** Faces of which a corner is not there are left out, and named: the others are right. */
const facesLeftOut = ({ leftOut }: ObjState): string[] =>
  leftOut.length === 0
    ? []
    : [
        `${leftOut.length} ${leftOut.length === 1 ? 'face' : 'faces'} whose vertices are not there (line ${leftOut.slice(0, 3).join(', ')}${leftOut.length > 3 ? ' …' : ''})`,
      ]

function parseObj(bytes: Uint8Array, stem: string): Outcome<ObjState> {
  const cursor = new TextCursor(bytes)
  const state: ObjState = {
    places: new GrowingFloats(),
    uvs: new GrowingFloats(),
    normals: new GrowingFloats(),
    colours: new GrowingFloats(),
    objects: [],
    libraries: [],
    generator: '',
    other: new Map(),
    faces: 0,
    leftOut: [],
    whyLeftOut: null,
    face: [],
  }
  let object: ObjObject | null = null,
    group: Group | null = null,
    slot: string | null = null,
    named = false
  const begin = (name: string): void => {
    // A name that comes again goes on with the same object
    object = state.objects.find((o) => o.name === name) ?? { name, groups: new Map() }
    if (!state.objects.includes(object)) state.objects.push(object)
    group = null
  }
  for (; !cursor.done; cursor.nextLine()) {
    cursor.skipBlanks()
    const c = cursor.byte
    if (c === V) {
      if (!readVertexLine(cursor, state))
        return bad(
          'mesh/bad-structure',
          `Line ${cursor.line} does not hold the numbers of a vertex.`,
          'Export the file again; it is damaged or cut short.',
          { part: `line ${cursor.line}` },
        )
    } else if (c === F) {
      if (cursor.word() !== 'f') continue
      if (!object) begin(stem)
      if (!group) {
        const { groups }: ObjObject = object!
        group = groups.get(slot) ?? { slot, corners: new GrowingInts() }
        groups.set(slot, group)
      }
      const { corners } = group as Group,
        before = corners.length
      const fault = readFace(cursor, state, corners)
      if (fault) {
        corners.length = before
        state.leftOut.push(cursor.line)
        state.whyLeftOut ??= fault
      } else state.faces++
    } else if (c === HASH) {
      if (state.generator === '' && cursor.line < 6)
        state.generator = cursor
          .rest()
          .replace(/^#+\s*/, '')
          .slice(0, 200)
    } else if (c >= 0) {
      const word = cursor.word()
      if (word === 'o') {
        begin(cursor.rest() || stem)
        named = true
      } else if (word === 'g') {
        // Where objects are named, groups only part them
        const name = cursor.rest()
        if (!named && name !== (object as ObjObject | null)?.name) begin(name || stem)
      } else if (word === 'usemtl') {
        slot = cursor.rest() || null
        group = null
      } else if (word === 'mtllib') state.libraries.push(...librariesIn(cursor.rest()))
      else if (word !== '' && word !== 's') state.other.set(word, (state.other.get(word) ?? 0) + 1)
    }
  }
  return good(state)
}

const V = 0x76,
  F = 0x66,
  HASH = 0x23,
  T = 0x74,
  N = 0x6e,
  SLASH = 0x2f,
  BLANK = 0x20,
  TAB = 0x09

/** One name with blanks is likelier than several libraries, unless each of them ends like one. */
const librariesIn = (text: string): string[] => {
  const words = text.split(/\s+/).filter(Boolean)
  const names = words.length > 1 && words.every((w) => /\.mtl$/i.test(w)) ? words : text ? [text] : []
  return names.map((n) => n.replaceAll('\\', '/'))
}

function readVertexLine(cursor: TextCursor, state: ObjState): boolean {
  cursor.at++
  const second = cursor.byte
  if (second === BLANK || second === TAB) {
    for (let k = 0; k < 3; k++) {
      if (cursor.atLineEnd()) return false
      state.places.push(cursor.number())
    }
    if (!cursor.atLineEnd()) readColour(cursor, state)
    return true
  }
  cursor.at++
  if (second === T || second === N) {
    const list = second === T ? state.uvs : state.normals,
      count = second === T ? 2 : 3
    if (cursor.atLineEnd()) return false
    for (let k = 0; k < count; k++) {
      const value = cursor.atLineEnd() ? (k === 0 ? NaN : 0) : cursor.number()
      list.push(second === T && k === 1 ? 1 - value : value)
    }
    return true
  }
  state.other.set('vp', (state.other.get('vp') ?? 0) + 1)
  return true
}

/** A colour behind a place (three numbers); a single number there is a weight of a curve. */
function readColour(cursor: TextCursor, state: ObjState): void {
  const r = cursor.number()
  if (cursor.atLineEnd()) return
  const g = cursor.number()
  if (cursor.atLineEnd()) return
  const b = cursor.number()
  const at = state.places.length / 3 - 1
  // Places before the first coloured one are white
  while (state.colours.length < at * 3) state.colours.push(1)
  state.colours.push(r)
  state.colours.push(g)
  state.colours.push(b)
}

/** Reads the corners of one face as triangles (see cutPolygon). Gives what is wrong, or null. */
function readFace(cursor: TextCursor, state: ObjState, out: GrowingInts): string | null {
  const places = state.places.length / 3,
    uvs = state.uvs.length / 2,
    normals = state.normals.length / 3
  const face = state.face
  face.length = 0
  while (!cursor.atLineEnd()) {
    const before = cursor.at
    const place = indexOf(cursor.whole(), places)
    let uv = -1,
      normal = -1
    if (cursor.byte === SLASH) {
      cursor.at++
      if (cursor.byte !== SLASH) uv = cursor.byte === BLANK ? -1 : indexOf(cursor.whole(), uvs)
      if (cursor.byte === SLASH) {
        cursor.at++
        if (cursor.byte > BLANK) normal = indexOf(cursor.whole(), normals)
      }
    }
    if (place < 0 || uv < -1 || normal < -1)
      return `a face names something that is not there (of ${places} places, ${uvs} UVs, ${normals} normals).`
    if (cursor.at === before || cursor.byte > BLANK) return 'a face holds something that is not a number.'
    face.push(place, uv, normal)
  }
  if (face.length === 9) for (const value of face) out.push(value)
  else if (face.length > 9) cutFace(face, state.places, out)
  return null
}

/** A face of more than three corners as triangles; `face` has place, UV and normal of each corner. */
function cutFace(face: readonly number[], places: GrowingFloats, out: GrowingInts): void {
  const points: number[] = []
  for (let k = 0; k < face.length; k += 3)
    for (let i = 0; i < 3; i++) points.push(places.at(face[k]! * 3 + i))
  for (const corner of cutPolygon(points)) for (let i = 0; i < 3; i++) out.push(face[corner * 3 + i]!)
}

/** Counted from 1, or backwards from the newest; −2 when it is not there. */
const indexOf = (written: number, count: number): number => {
  const index = written > 0 ? written - 1 : written < 0 ? count + written : -2
  return index >= 0 && index < count ? index : -2
}

interface SlotList {
  list: TranslatedSlot[]
  indexOf: (name: string | null) => number | null
}

/** Slots in the order of their first use; one without a block in a library is plain. */
function slotsOf(state: ObjState, known: readonly TranslatedSlot[]): SlotList {
  const used = [
    ...new Set(
      state.objects.flatMap((o) =>
        [...o.groups.values()].filter((g) => g.corners.length > 0).map((g) => g.slot),
      ),
    ),
  ].filter((n) => n !== null)
  const list = used.map((name) => known.find((k) => k.name === name) ?? plainSlot(name))
  return { list, indexOf: (name) => (name === null ? null : used.indexOf(name)) }
}

export const plainSlot = (name: string): TranslatedSlot => ({
  name,
  baseColour: [1, 1, 1, 1],
  metallic: 0,
  roughness: 1,
  emissive: [0, 0, 0],
  alphaMode: 'OPAQUE',
  doubleSided: false,
  textures: {},
})

function partOf(group: Group, state: ObjState, slots: SlotList): TranslatedPart {
  const joined = joinCorners(
    group.corners.take(),
    state.places.take(),
    state.uvs.take(),
    state.normals.take(),
    state.colours.take(),
  )
  return { ...joined, slot: slots.indexOf(group.slot) }
}
