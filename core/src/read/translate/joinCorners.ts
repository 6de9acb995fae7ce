import { hashBits, tableSize } from '../../geometry/hashBits'
import type { TranslatedPart } from './containerBuilder'

/**
 * Makes vertices out of corners that index places, UVs and normals apart: corners with the same three indices
 * become one vertex. `corners` holds three numbers a corner, −1 for none; an attribute that no corner has is
 * left out, one that only some have is 0 at the others. Colours go with the places.
 */
export function joinCorners(
  corners: Int32Array,
  places: Float32Array,
  uvs: Float32Array,
  normals: Float32Array,
  colours: Float32Array,
): Omit<TranslatedPart, 'slot'> {
  const count = corners.length / 3
  const indices = new Uint32Array(count),
    firstCorner = new Int32Array(count)
  const found = uniqueCorners(corners, indices, firstCorner)
  const positions = new Float32Array(found * 3)
  let anyUv = false,
    anyNormal = false
  for (let v = 0; v < found; v++) {
    const at = firstCorner[v]! * 3,
      place = corners[at]! * 3
    positions[v * 3] = places[place]!
    positions[v * 3 + 1] = places[place + 1]!
    positions[v * 3 + 2] = places[place + 2]!
    anyUv ||= corners[at + 1]! >= 0
    anyNormal ||= corners[at + 2]! >= 0
  }
  const pick = (any: boolean, from: Float32Array, size: number, field: number): Float32Array | null => {
    if (!any) return null
    const out = new Float32Array(found * size)
    for (let v = 0; v < found; v++) {
      const index = corners[firstCorner[v]! * 3 + field]!
      if (index >= 0) for (let k = 0; k < size; k++) out[v * size + k] = from[index * size + k]!
    }
    return out
  }
  const uv = pick(anyUv, uvs, 2, 1)
  return {
    positions,
    normals: pick(anyNormal, normals, 3, 2),
    uvs: uv ? [uv] : [],
    colours: colours.length > 0 ? coloursOf(corners, firstCorner, found, colours) : null,
    indices,
  }
}

/** RGBA a vertex; places without a colour are white. */
function coloursOf(
  corners: Int32Array,
  firstCorner: Int32Array,
  found: number,
  colours: Float32Array,
): Float32Array {
  const out = new Float32Array(found * 4).fill(1)
  for (let v = 0; v < found; v++) {
    const place = corners[firstCorner[v]! * 3]! * 3
    if (place + 2 < colours.length) for (let k = 0; k < 3; k++) out[v * 4 + k] = colours[place + k]!
  }
  return out
}

/**
 * Numbers the different corners in the order they come, by a table of open addresses; gives how many there
 * are.
 */
function uniqueCorners(corners: Int32Array, indices: Uint32Array, firstCorner: Int32Array): number {
  const size = tableSize(indices.length)
  const table = new Int32Array(size).fill(-1),
    mask = size - 1
  let found = 0
  for (let i = 0; i < indices.length; i++) {
    const a = corners[i * 3]!,
      b = corners[i * 3 + 1]!,
      c = corners[i * 3 + 2]!
    let at = hashBits(a, b, c) & mask
    for (;;) {
      const vertex = table[at]!
      if (vertex < 0) {
        table[at] = found
        firstCorner[found] = i
        indices[i] = found++
        break
      }
      const k = firstCorner[vertex]! * 3
      if (corners[k] === a && corners[k + 1] === b && corners[k + 2] === c) {
        indices[i] = vertex
        break
      }
      at = (at + 1) & mask
    }
  }
  return found
}
