import type { Node, Primitive } from '@gltf-transform/core'
import type { Bounds } from '@stern-gate/contract'
import { linearDeterminant } from '../geometry/matrix'
import { boundsSize, joinBounds, pointBounds } from '../geometry/pointBounds'
import { placesOf, pointIds, pointsOfTriangles } from '../geometry/pointIds'
import { placeHashes, type HashedSurface } from '../geometry/quadSample'
import { DEGENERATE_AREA_SHARE, triangleSurvey, type TriangleSurvey } from '../geometry/triangleSurvey'
import type { TriangleList } from '../geometry/joinTriangles'
import type { LevelSurface } from '../geometry/surfaceDeviation'
import { primitiveView, type PrimitiveView } from '../scene/primitiveView'
import { worldPositions } from '../scene/worldPositions'

/** One primitive where its node stands, with what several measures need. */
export interface PlacedPrimitive {
  primitive: Primitive
  view: PrimitiveView
  world: Float32Array
  survey: TriangleSurvey
  /** Points of this primitive's vertices, numbered over the whole node. */
  points: Uint32Array
  slot: string | null
}

/** The mesh of a node where it stands. */
export interface PlacedMesh {
  primitives: PlacedPrimitive[]
  bounds: Bounds | null
  /** Distinct places of all vertices: x y z each. */
  places: Float32Array
  winding: 'mirrored' | 'plain'
}

export function placeMesh(node: Node, slotOf: (primitive: Primitive) => string | null): PlacedMesh {
  const found = (node.getMesh()?.listPrimitives() ?? []).map((primitive) => {
    const view = primitiveView(primitive)
    return {
      primitive,
      view,
      world: worldPositions(node, primitive, view.positions),
      slot: slotOf(primitive),
    }
  })
  const bounds = joinBounds(found.map((p) => pointBounds(p.world)))
  const [x, y, z] = bounds ? boundsSize(bounds) : [0, 0, 0]
  const limit = DEGENERATE_AREA_SHARE * (x * x + y * y + z * z)
  const { ids, places } = numberPoints(found.map((p) => p.world))
  return {
    primitives: found.map((p, i) => withSurvey({ ...p, points: ids[i]! }, limit)),
    bounds,
    places,
    winding: !node.getSkin() && linearDeterminant(node.getWorldMatrix()) < 0 ? 'mirrored' : 'plain',
  }
}

/** The survey is made when it is first asked for: by then another thread may be counting. */
function withSurvey(placed: Omit<PlacedPrimitive, 'survey'>, areaLimit: number): PlacedPrimitive {
  let survey: TriangleSurvey | null = null
  return {
    ...placed,
    get survey() {
      return (survey ??= triangleSurvey(placed.world, placed.view.indices, areaLimit))
    },
  }
}

function numberPoints(lists: Float32Array[]): { ids: Uint32Array[]; places: Float32Array } {
  const all = lists.length === 1 ? lists[0]! : joinFloats(lists)
  const numbered = pointIds(all)
  let at = 0
  const ids = lists.map((list) => numbered.ids.subarray(at, (at += list.length / 3)))
  return { ids, places: numbered.count === all.length / 3 ? all : placesOf(all, numbered) }
}

/** Joins arrays into one. */
export function joinFloats(lists: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(lists.reduce((sum, l) => sum + l.length, 0))
  let at = 0
  for (const list of lists) {
    out.set(list, at)
    at += list.length
  }
  return out
}

/** Three point numbers a triangle, over all primitives; bad indices become a number that no point has. */
export function cornersOf({ primitives }: PlacedMesh): Uint32Array {
  const corners = new Uint32Array(primitives.reduce((sum, p) => sum + cornerCount(p), 0))
  let at = 0
  for (const { view, points } of primitives)
    at += pointsOfTriangles(view.indices, points, corners.subarray(at))
  return corners
}

/** Its surface by the hashes of its places, in the box of the whole that it belongs to. */
export const hashedSurface = (mesh: PlacedMesh, whole: Bounds): HashedSurface => ({
  hashes: placeHashes(mesh.places, whole),
  corners: cornersOf(mesh),
})

const cornerCount = ({ view }: PlacedPrimitive): number => view.indices.length - (view.indices.length % 3)

/** Triangles of meshes where they stand, a part each, with the surface of each triangle and the first UVs. */
export const trianglesOf = (meshes: readonly PlacedMesh[]): LevelSurface['parts'] =>
  meshes.flatMap(({ primitives, winding }) =>
    primitives
      .filter((p) => p.view.mode === 'triangles')
      .map((p) => ({
        positions: p.world,
        indices: p.view.indices,
        areas: p.survey.areas,
        turned: winding === 'mirrored',
        uvs: p.view.uvs[0] ?? null,
      })),
  )

/** How many they are. */
export const triangleCount = (parts: readonly Pick<TriangleList, 'indices'>[]): number =>
  parts.reduce((sum, p) => sum + Math.floor(p.indices.length / 3), 0)
