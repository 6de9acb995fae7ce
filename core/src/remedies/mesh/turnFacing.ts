import type { Document, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { FACE_INSIDE_OUT, meshTopology } from '../../geometry/meshTopology'
import { formatCount } from '../../numbers/formatNumber'
import { cornersOf, placeMesh } from '../../measure/placedMesh'
import { floatsOf, primitiveView, type PrimitiveView } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { meshesAt, ownAttributes, setFloats, setTriangles } from '../meshWork'

export const turnFacing = defineRemedy({
  id: 'mesh/turn-facing',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Turn faces outward',
  words: () => 'Turn faces outward',
  about:
    'Turns the winding of triangles that face inward or against the rest of their shell. Vertex ' +
    'normals that only turned triangles use are turned with them.',
  options: z.strictObject({
    node: nodeOption,
  }),
  async apply(work, { node: path }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no faces' })
    let turned = 0
    for (const { node } of meshesAt(work, path)) {
      const placed = placeMesh(node, () => null)
      const { flags } = meshTopology(cornersOf(placed), placed.places, placed.winding)
      let from = 0
      for (const { primitive, view } of placed.primitives) {
        const count = Math.floor(view.indices.length / 3)
        turned += turnTriangles(work.document, primitive, flags.subarray(from, from + count))
        from += count
      }
    }
    return good({
      changed: turned > 0,
      said: turned > 0 ? `${formatCount(turned)} triangles turned` : 'every face looks outward',
    })
  },
})

function turnTriangles(document: Document, primitive: Primitive, flags: Uint8Array): number {
  const view = primitiveView(primitive)
  const indices = view.indices.slice(),
    normal = primitive.getAttribute('NORMAL'),
    vertices = view.positions.length / 3
  const firstTurned = new Int32Array(vertices).fill(-1),
    keeps = new Uint8Array(vertices)
  let turned = 0
  for (let t = 0; t < flags.length; t++) {
    const [a, b, c] = [indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!]
    if (!(flags[t]! & FACE_INSIDE_OUT)) {
      keeps[a] = keeps[b] = keeps[c] = 1
      continue
    }
    for (const v of [a, b, c]) if (firstTurned[v] === -1) firstTurned[v] = t
    indices[t * 3 + 1] = c
    indices[t * 3 + 2] = b
    turned++
  }
  if (turned === 0) return 0
  ownAttributes(primitive)
  if (normal) {
    const values = floatsOf(normal).slice()
    // Normals that agreed with the old facing turn with it; those that were right all along stay
    for (let v = 0; v < vertices; v++)
      if (firstTurned[v]! >= 0 && !keeps[v] && agreesWithFace(v, firstTurned[v]!, values, view))
        for (let i = 0; i < 3; i++) values[v * 3 + i] = -values[v * 3 + i]!
    setFloats(document, primitive, 'NORMAL', values, 'VEC3')
  }
  setTriangles(document, primitive, indices)
  return turned
}

/** Whether a vertex normal points to the side that a triangle faced before it was turned. */
function agreesWithFace(
  vertex: number,
  triangle: number,
  normals: Float32Array,
  { positions, indices }: PrimitiveView,
): boolean {
  const [a, b, c] = [0, 1, 2].map((i) => indices[triangle * 3 + i]! * 3) as [number, number, number]
  const ux = positions[b]! - positions[a]!,
    uy = positions[b + 1]! - positions[a + 1]!,
    uz = positions[b + 2]! - positions[a + 2]!
  const vx = positions[c]! - positions[a]!,
    vy = positions[c + 1]! - positions[a + 1]!,
    vz = positions[c + 2]! - positions[a + 2]!
  return (
    (uy * vz - uz * vy) * normals[vertex * 3]! +
      (uz * vx - ux * vz) * normals[vertex * 3 + 1]! +
      (ux * vy - uy * vx) * normals[vertex * 3 + 2]! >
    0
  )
}
