import type { Document, Node, Primitive } from '@gltf-transform/core'
import type { Bounds, NodeFacts, PrimitiveFacts } from '@stern-gate/contract'
import { linearDeterminant } from '../geometry/matrix'
import { boundsSize, joinBounds, pointBounds } from '../geometry/pointBounds'
import { DEGENERATE_AREA_SHARE, notFinitePoints, triangleSurvey } from '../geometry/triangleSurvey'
import { nodePaths } from '../scene/nodePaths'
import { primitiveView, type PrimitiveView } from '../scene/primitiveView'
import { slotNames } from '../scene/slotNames'
import { worldPositions } from '../scene/worldPositions'
import type { AddEvidence } from './measureMesh'

/** Measures every node of the shown scene: transform, bounds in the world, and each primitive's triangles, area, faults and UV channels. */
export function measureNodes(document: Document, addEvidence: AddEvidence): NodeFacts[] {
  const slots = slotNames(document)
  const views = new Map<Primitive, PrimitiveView>()
  const viewOf = (primitive: Primitive): PrimitiveView => {
    const known = views.get(primitive) ?? primitiveView(primitive)
    views.set(primitive, known)
    return known
  }
  const paths = nodePaths(document)
  return [...paths].map(([node, path]) => {
    const primitives = node.getMesh()?.listPrimitives() ?? []
    const placed = primitives.map((primitive) => ({ primitive, view: viewOf(primitive), world: worldPositions(node, primitive, viewOf(primitive).positions) }))
    const bounds = joinBounds(placed.map((p) => pointBounds(p.world)))
    return {
      ...nodeTransform(node),
      path,
      name: node.getName(),
      parent: node.getParentNode() ? (paths.get(node.getParentNode()!) ?? null) : null,
      mesh: node.getMesh()?.getName() ?? null,
      bounds,
      skinned: node.getSkin() !== null,
      primitives: placed.map(({ primitive, view, world }, index) => {
        const slot = primitive.getMaterial()
        return primitiveFacts(view, world, { index, slot: slot ? (slots.get(slot) ?? null) : null, bounds, name: `${path}:${index}` }, addEvidence)
      }),
    }
  })
}

function nodeTransform(node: Node): Pick<NodeFacts, 'translation' | 'scale' | 'rotation' | 'determinant'> {
  return { translation: finite(node.getTranslation()), scale: finite(node.getScale()), rotation: finite(node.getRotation()), determinant: finite([linearDeterminant(node.getWorldMatrix())] as [number])[0] }
}

/** JSON knows no NaN: a number that is none becomes 0. */
const finite = <T extends number[]>(values: T): T => values.map((v) => (Number.isFinite(v) ? v : 0)) as T

interface Placement { index: number; slot: string | null; bounds: Bounds | null; name: string }

function primitiveFacts(view: PrimitiveView, world: Float32Array, place: Placement, addEvidence: AddEvidence): PrimitiveFacts {
  const [x, y, z] = place.bounds ? boundsSize(place.bounds) : [0, 0, 0]
  const survey = triangleSurvey(world, view.indices, DEGENERATE_AREA_SHARE * (x * x + y * y + z * z))
  addEvidence(`degenerate:${place.name}`, survey.degenerate)
  addEvidence(`bad-indices:${place.name}`, survey.badIndices)
  return {
    index: place.index,
    slot: place.slot,
    mode: view.mode,
    triangles: Math.floor(view.indices.length / 3),
    vertices: view.positions.length / 3,
    area: survey.area,
    attributes: view.attributes,
    degenerate: survey.degenerate.length,
    badIndices: survey.badIndices.length,
    notFinite: notFinitePoints(world),
    uvChannels: view.uvs.flatMap((uv, channel) => (uv ? [uvExtent(uv, channel)] : [])),
  }
}

function uvExtent(uv: Float32Array, channel: number): PrimitiveFacts['uvChannels'][number] {
  let u0 = Infinity, v0 = Infinity, u1 = -Infinity, v1 = -Infinity
  for (let k = 0; k + 1 < uv.length; k += 2) {
    const u = uv[k]!, v = uv[k + 1]!
    if (!Number.isFinite(u + v)) continue
    if (u < u0) u0 = u
    if (u > u1) u1 = u
    if (v < v0) v0 = v
    if (v > v1) v1 = v
  }
  if (u0 === Infinity) return { channel, min: [0, 0], max: [0, 0], allSame: true }
  return { channel, min: [u0, v0], max: [u1, v1], allSame: u0 === u1 && v0 === v1 }
}
