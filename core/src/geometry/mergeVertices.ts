import { inBlocks, inKernels, type KernelRoom } from '../kernels/inKernels'

/**
 * One attribute of vertices, `size` numbers each; two vertices agree when no number differs by more than the
 * tolerance.
 */
export interface VertexAttribute {
  values: Float32Array
  size: number
  tolerance: number
}

/** `rep` gives each vertex the earlier one that it equals, or itself. */
export interface MergedVertices {
  rep: Uint32Array
  merged: number
}

/**
 * At most this many different vertices of one point are compared; a fan of more is left unmerged, so that
 * time stays linear.
 */
const MOST_AT_A_POINT = 96

/**
 * Finds vertices that share a point and agree in every attribute. `points` gives each vertex its point, below
 * `pointCount`.
 */
export function mergeVertices(
  points: Uint32Array,
  pointCount: number,
  attributes: readonly VertexAttribute[],
): MergedVertices {
  const vertices = points.length
  return inKernels((room) => {
    const at = room.hold(points),
      held = holdAttributes(room, attributes, vertices)
    const heads = room.filled(pointCount * 4, 255),
      next = room.filled(vertices * 4, 255),
      rep = room.space(vertices * 4)
    let merged = 0
    inBlocks(vertices, (from, to) => {
      merged += room.run.mergeVertices(
        at,
        from,
        to,
        held,
        attributes.length,
        heads,
        next,
        rep,
        MOST_AT_A_POINT,
      )
    })
    return { rep: room.words(rep, vertices).slice(), merged }
  })
}

/**
 * Four words an attribute: where its values stand, how many a vertex has, and the tolerance. Values that are
 * missing are no numbers and agree with nothing.
 */
function holdAttributes(room: KernelRoom, attributes: readonly VertexAttribute[], vertices: number): number {
  const held = room.space(attributes.length * 16)
  attributes.forEach(({ values, size, tolerance }, n) => {
    const missing = vertices * size - values.length
    const at = room.space(vertices * size * 4),
      own = room.floats(at, vertices * size)
    own.set(missing < 0 ? values.subarray(0, vertices * size) : values)
    if (missing > 0) own.fill(NaN, values.length)
    room.words(held + n * 16, 2).set([at, size])
    room.doubles(held + n * 16 + 8, 1)[0] = tolerance
  })
  return held
}
