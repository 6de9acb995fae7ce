import type { Accessor, Primitive } from '@gltf-transform/core'

/** Drawing modes of glTF 2.0, table 3.7.2.1. */
export const MODE_TRIANGLES = 4
const MODE_POINTS = 0
const MODE_TRIANGLE_FAN = 6

/** One primitive as plain typed arrays; the kernels see nothing else of a Document. */
export interface PrimitiveView {
  mode: 'triangles' | 'lines' | 'points'
  /** x y z for each vertex, in the space of the node. */
  positions: Float32Array
  /** Three vertex numbers a triangle; strips and fans are spread out. Empty for lines and points. */
  indices: Uint32Array
  /** u v for each vertex, a channel each; null where the file skips a number. */
  uvs: (Float32Array | null)[]
  attributes: string[]
}

/**
 * Gives the plain view of a primitive. Float data is shared with the Document, not copied: do not write to
 * it.
 */
export function primitiveView(primitive: Primitive): PrimitiveView {
  const position = primitive.getAttribute('POSITION')
  const positions = position ? floatsOf(position) : new Float32Array(0)
  return {
    mode: kindOf(primitive.getMode()),
    positions,
    indices: triangleIndices(primitive, positions.length / 3),
    uvs: uvChannels(primitive),
    attributes: primitive.listSemantics(),
  }
}

/** Values as floats; normalised integers are spread to their real range. */
export function floatsOf(accessor: Accessor): Float32Array {
  const array = accessor.getArray()
  if (!array) return new Float32Array(0)
  if (array instanceof Float32Array) return array
  const out = new Float32Array(array.length)
  if (!accessor.getNormalized()) {
    out.set(array)
    return out
  }
  // Table 3.6.2.2 of glTF 2.0: unsigned v / max, signed max(v / max, −1)
  const signed = array instanceof Int8Array || array instanceof Int16Array
  const full =
    array instanceof Int8Array
      ? 127
      : array instanceof Uint8Array
        ? 255
        : array instanceof Int16Array
          ? 32767
          : array instanceof Uint16Array
            ? 65535
            : 4294967295
  for (let i = 0; i < array.length; i++) out[i] = signed ? Math.max(array[i]! / full, -1) : array[i]! / full
  return out
}

function kindOf(mode: number): PrimitiveView['mode'] {
  if (mode === MODE_POINTS) return 'points'
  return mode >= MODE_TRIANGLES ? 'triangles' : 'lines'
}

function uvChannels(primitive: Primitive): (Float32Array | null)[] {
  const channels: (Float32Array | null)[] = []
  for (const semantic of primitive.listSemantics()) {
    const found = /^TEXCOORD_(\d{1,2})$/.exec(semantic)
    if (found) channels[Number(found[1])] = floatsOf(primitive.getAttribute(semantic)!)
  }
  return Array.from(channels, (c) => c ?? null)
}

function triangleIndices(primitive: Primitive, vertices: number): Uint32Array {
  const mode = primitive.getMode()
  if (mode < MODE_TRIANGLES) return new Uint32Array(0)
  const source = primitive.getIndices()?.getArray() ?? null
  const count = source ? source.length : vertices
  const at = (k: number): number => (source ? source[k]! : k)
  if (mode === MODE_TRIANGLES) {
    if (source instanceof Uint32Array) return source
    const out = new Uint32Array(count - (count % 3))
    for (let k = 0; k < out.length; k++) out[k] = at(k)
    return out
  }
  const out = new Uint32Array(Math.max(0, count - 2) * 3)
  for (let t = 0; t * 3 < out.length; t++) {
    const fan = mode === MODE_TRIANGLE_FAN
    // A strip turns every second triangle, so that all wind the same way
    const odd = !fan && t % 2 === 1
    out[t * 3] = fan ? at(0) : at(odd ? t + 1 : t)
    out[t * 3 + 1] = fan ? at(t + 1) : at(odd ? t : t + 1)
    out[t * 3 + 2] = at(t + 2)
  }
  return out
}
