import type { Mesh, Node, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { invertAffine, linearDeterminant, multiplyMatrices, type Matrix4 } from '../../geometry/matrix'
import { pointBounds } from '../../geometry/pointBounds'
import { formatCount } from '../../numbers/formatNumber'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { gatherVertices, meshesAt, setFloats, setTriangles, trianglePrimitives } from '../meshWork'

/** Points so near the plane, in diagonals of the bounds, are drawn into it and belong to both halves. */
const IN_PLANE = 1e-4
/** A normal that leans out of the plane by no more than this is that of a surface which runs on. */
const RUNS_ON = 0.5

export const mirrorHalf = defineRemedy({
  id: 'mesh/mirror-half',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Mirror a half',
  words: ({ axis }) => `Mirror along ${axis}`,
  about:
    'Makes a whole of half a model: what stands on one side of a plane is mirrored to the other, ' +
    'with its slots and UVs (both halves share them), and welded in the plane. A surface that runs ' +
    'on through the plane gets a normal that lies in it, an edge stays an edge. What follows bones ' +
    'is left alone: they would have to be mirrored, too.',
  options: z.strictObject({
    node: z.string().describe('path of the node').meta({ names: 'node' }),
    axis: z.enum(['X', 'Y', 'Z']).default('X').describe('axis of the world that is mirrored'),
    at: z.number().default(0).describe('where the plane lies along it, in metres'),
  }),
  async apply(work, { node: path, axis, at }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no mesh' })
    const found = meshesAt(work, path)[0]
    if (!found) return good({ changed: false, said: `${path} is not there, or draws nothing` })
    const { node } = found
    if (node.getSkin())
      return bad(
        'remedy/not-applicable',
        `${path} follows bones; they would have to be mirrored, too.`,
        'Mirror it where it was made.',
        { node: path },
      )
    const k = 'XYZ'.indexOf(axis)
    const mirror = mirrorWithin(node, k, at)
    if (!mirror)
      return bad('remedy/not-applicable', `${path} is scaled to nothing.`, 'Give it a size first.', {
        node: path,
      })
    if (standsOnBothSides(node, trianglePrimitives(found.mesh), k, at))
      return good({ changed: false, said: `${path} stands on both sides of ${axis} = ${at}` })
    const mesh = ownMesh(node, found.mesh)
    let made = 0
    for (const primitive of trianglePrimitives(mesh))
      made += mirrorPrimitive(work.document, node, primitive, { mirror, k, at })
    return good({
      changed: made > 0,
      said: made > 0 ? `${formatCount(made)} triangles mirrored` : 'there is nothing to mirror',
    })
  },
})

/** The mirror in the space of a node: out to the world, mirrored, and back; null where it has no way back. */
function mirrorWithin(node: Node, axis: number, at: number): Matrix4 | null {
  const world = node.getWorldMatrix(),
    back = invertAffine(world)
  if (!back) return null
  const flip = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
  flip[axis * 5] = -1
  flip[12 + axis] = 2 * at
  return multiplyMatrices(back, multiplyMatrices(flip, world))
}

/** Whether triangles reach to both sides of the plane; points that nothing uses do not count. */
function standsOnBothSides(node: Node, primitives: readonly Primitive[], axis: number, at: number): boolean {
  let above = false,
    below = false
  for (const primitive of primitives) {
    const { positions, indices } = primitiveView(primitive)
    const points = worldPositions(node, primitive, positions)
    const tolerance = toleranceOf(points)
    for (const v of indices) {
      const place = points[v * 3 + axis]!
      if (place > at + tolerance) above = true
      else if (place < at - tolerance) below = true
    }
  }
  return above && below
}

function toleranceOf(points: Float32Array): number {
  const box = pointBounds(points)
  return box ? IN_PLANE * Math.hypot(...box.max.map((v, i) => v - box.min[i]!)) : 0
}

/** The mesh for this node alone: another one that shows it is not mirrored along. */
function ownMesh(node: Node, mesh: Mesh): Mesh {
  const shared = mesh.listParents().filter((p) => p.propertyType === 'Node').length > 1
  if (!shared) return mesh
  const own = mesh.clone()
  for (const primitive of own.listPrimitives()) {
    own.removePrimitive(primitive)
    own.addPrimitive(primitive.clone())
  }
  node.setMesh(own)
  return own
}

interface Plane {
  mirror: Matrix4
  k: number
  at: number
}

/** Doubles a primitive through the plane; gives how many triangles were made. */
function mirrorPrimitive(
  document: Parameters<typeof setFloats>[0],
  node: Node,
  primitive: Primitive,
  { mirror, k, at }: Plane,
): number {
  const { positions, indices } = primitiveView(primitive)
  const count = positions.length / 3
  const world = worldPositions(node, primitive, positions)
  const tolerance = toleranceOf(world)
  const normals = primitive.getAttribute('NORMAL')
  const lean = normals ? leanOf(floatsOf(normals), node, k) : null
  // A vertex in the plane serves both halves, unless an edge runs along the plane there
  const other = new Uint32Array(count),
    source: number[] = Array.from({ length: count }, (_, v) => v)
  for (let v = 0; v < count; v++) {
    const isIn = Math.abs(world[v * 3 + k]! - at) <= tolerance
    if (isIn && (lean === null || Math.abs(lean[v]!) <= RUNS_ON)) other[v] = v
    else {
      other[v] = source.length
      source.push(v)
    }
  }
  const triangles: number[] = Array.from(indices)
  let made = 0
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const [a, b, c] = [indices[t]!, indices[t + 1]!, indices[t + 2]!]
    if (a >= count || b >= count || c >= count) continue
    // A cover in the plane would lie on its own image
    if ([a, b, c].every((v) => Math.abs(world[v * 3 + k]! - at) <= tolerance)) continue
    triangles.push(other[a]!, other[c]!, other[b]!)
    made++
  }
  gatherVertices(primitive, Uint32Array.from(source))
  mirrorAttributes(document, primitive, count, mirror)
  flattenAtPlane(document, primitive, node, { other, world, k, at })
  setTriangles(document, primitive, Uint32Array.from(triangles))
  return made
}

/** How far each normal leans out of the plane, −1 to 1. */
function leanOf(normals: Float32Array, node: Node, axis: number): Float32Array {
  const m = node.getWorldMatrix()
  const back = invertAffine(m)
  const out = new Float32Array(normals.length / 3)
  if (!back) return out
  for (let v = 0; v < out.length; v++) {
    const n = [0, 1, 2].map(
      (r) =>
        back[r * 4]! * normals[v * 3]! +
        back[r * 4 + 1]! * normals[v * 3 + 1]! +
        back[r * 4 + 2]! * normals[v * 3 + 2]!,
    )
    out[v] = n[axis]! / (Math.hypot(...n) || 1)
  }
  return out
}

/** Mirrors places, normals, tangents and shapes of the vertices from `first` on. */
function mirrorAttributes(
  document: Parameters<typeof setFloats>[0],
  primitive: Primitive,
  first: number,
  mirror: Matrix4,
): void {
  const back = invertAffine(mirror)!
  const moved = (v: Float32Array, i: number, w: number): [number, number, number] =>
    [0, 1, 2].map(
      (r) =>
        mirror[r]! * v[i]! + mirror[4 + r]! * v[i + 1]! + mirror[8 + r]! * v[i + 2]! + w * mirror[12 + r]!,
    ) as [number, number, number]
  const turned = (v: Float32Array, i: number): [number, number, number] => {
    const n = [0, 1, 2].map(
      (r) => back[r * 4]! * v[i]! + back[r * 4 + 1]! * v[i + 1]! + back[r * 4 + 2]! * v[i + 2]!,
    )
    const length = Math.hypot(...n) || 1
    return n.map((x) => x / length) as [number, number, number]
  }
  const flips = linearDeterminant(mirror) < 0 ? -1 : 1
  for (const holder of [primitive, ...primitive.listTargets()]) {
    const isTarget = holder !== primitive
    for (const semantic of holder.listSemantics()) {
      const accessor = holder.getAttribute(semantic)!
      if (!/^(POSITION|NORMAL|TANGENT)$/.test(semantic)) continue
      const size = accessor.getElementSize()
      const values = Float32Array.from(floatsOf(accessor))
      for (let v = first; v * size < values.length; v++) {
        const i = v * size
        if (semantic === 'POSITION') values.set(moved(values, i, isTarget ? 0 : 1), i)
        else if (semantic === 'NORMAL' && !isTarget) values.set(turned(values, i), i)
        else values.set(isTarget ? moved(values, i, 0) : unit(moved(values, i, 0)), i)
        if (size === 4) values[i + 3]! *= flips
      }
      holder.setAttribute(
        semantic,
        document
          .createAccessor(semantic)
          .setType(size === 4 ? 'VEC4' : 'VEC3')
          .setArray(values)
          .setBuffer(accessor.getBuffer()),
      )
    }
  }
}

const unit = (v: [number, number, number]): number[] => {
  const length = Math.hypot(...v) || 1
  return v.map((x) => x / length)
}

interface AtPlane {
  other: Uint32Array
  world: Float32Array
  k: number
  at: number
}

/** Draws shared vertices into the plane, and lays their normals into it. */
function flattenAtPlane(
  document: Parameters<typeof setFloats>[0],
  primitive: Primitive,
  node: Node,
  { other, world, k, at }: AtPlane,
): void {
  const back = invertAffine(node.getWorldMatrix())!
  const positions = Float32Array.from(floatsOf(primitive.getAttribute('POSITION')!))
  const normal = primitive.getAttribute('NORMAL')
  const normals = normal ? Float32Array.from(floatsOf(normal)) : null
  const lean = normals ? leanOf(normals, node, k) : null
  for (let v = 0; v < other.length; v++) {
    if (other[v] !== v) continue
    const off = at - world[v * 3 + k]!
    for (let r = 0; r < 3; r++) positions[v * 3 + r]! += back[k * 4 + r]! * off
    if (!normals || !lean) continue
    // In the world it has nothing along the axis when it is at right angles to this
    const plane = [0, 1, 2].map((r) => back[k * 4 + r]!)
    const length = Math.hypot(...plane) || 1
    const own = plane.map((x) => x / length)
    const share = own.reduce((sum, x, r) => sum + x * normals[v * 3 + r]!, 0)
    const flat = own.map((x, r) => normals[v * 3 + r]! - share * x)
    const size = Math.hypot(...flat) || 1
    for (let r = 0; r < 3; r++) normals[v * 3 + r] = flat[r]! / size
  }
  setFloats(document, primitive, 'POSITION', positions, 'VEC3')
  if (normals) setFloats(document, primitive, 'NORMAL', normals, 'VEC3')
}
