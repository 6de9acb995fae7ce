import type { MeshFacts, NodeFacts } from '@stern-gate/contract'
import { boundsSize, joinBounds } from '../geometry/pointBounds'
import { partsOfMesh } from '../scene/meshParts'

/** A mesh file in a few figures, by which it is known again in another format. */
export function meshOverview(nodes: readonly NodeFacts[]): NonNullable<MeshFacts['overview']> {
  const { finest, levels, collision } = partsOfMesh(nodes)
  const bounds = joinBounds(finest.map((n) => n.bounds))
  const primitives = finest.flatMap((n) => n.primitives)
  const has = (attribute: RegExp): boolean =>
    primitives.some((p) => p.attributes.some((a) => attribute.test(a)))
  return {
    triangles: primitives.reduce((sum, p) => sum + p.triangles, 0),
    area: primitives.reduce((sum, p) => sum + p.area, 0),
    size: bounds ? boundsSize(bounds) : [0, 0, 0],
    levels: levels.size,
    collision: collision.length > 0,
    uvChannels: Math.max(0, ...primitives.map((p) => p.uvChannels.length)),
    colours: has(/^COLOR_/),
    normals: has(/^NORMAL$/),
    skinned: finest.some((n) => n.skinned),
  }
}
