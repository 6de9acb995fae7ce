import type { Mesh } from 'three'
import type { AssetState } from '@stern-gate/contract'
import type { DropScene } from './dropBalls'
import type { StageModel } from './loadModel'
import { cornersOf, worldOf } from './meshPlaces'

/** What balls are dropped onto: the collision of a model on the stage, and the surface of its finest level. */
export function dropSceneOf(model: StageModel, state: AssetState): DropScene | null {
  const collision = new Set(state.collision),
    finest = new Set(state.levels[0]?.nodes)
  const nodes = new Map((state.mesh?.nodes ?? []).map((n) => [n.path, n]))
  const of = (paths: ReadonlySet<string>) =>
    model.meshes.filter((m) => paths.has(m.path)).map((m) => ({ path: m.path, ...trianglesOf(m.mesh) }))
  const shapes = of(collision).map(({ path, ...triangles }) => {
    const node = nodes.get(path)
    return { ...triangles, convex: node?.hull?.convex === true && node.topology?.shells === 1 }
  })
  const surface = of(finest).map(({ positions, indices }) => ({ positions, indices }))
  const min: [number, number, number] = [Infinity, Infinity, Infinity],
    max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  for (const { positions } of [...shapes, ...surface])
    positions.forEach((v, k) => {
      const axis = k % 3
      if (v < min[axis]!) min[axis] = v
      if (v > max[axis]!) max[axis] = v
    })
  return min[0] <= max[0] ? { collision: shapes, surface, min, max } : null
}

/** Triangles of a mesh where it stands. */
export const trianglesOf = (mesh: Mesh): { positions: Float32Array; indices: Uint32Array } => ({
  positions: worldOf(mesh),
  indices: Uint32Array.from(cornersOf(mesh.geometry)),
})
