import { meshTopology, type MeshTopology } from '../geometry/meshTopology'
import { nearPoints } from '../geometry/nearPoints'

/**
 * What counting needs of a node: corners and places as in meshTopology, and how near points lie that were
 * meant to be one.
 */
export interface TopologyInput {
  corners: Uint32Array
  places: Float32Array
  winding: 'mirrored' | 'plain'
  nearDistance: number
}
export interface TopologyCount {
  topology: MeshTopology
  near: number
}

/**
 * Port: counts how triangles hang together, here or elsewhere at the same time. May take the corners for
 * itself.
 */
export type CountTopology = (input: TopologyInput) => Promise<TopologyCount>

/** Counts here. */
export const countTopology = ({ corners, places, winding, nearDistance }: TopologyInput): TopologyCount => ({
  topology: meshTopology(corners, places, winding),
  near: nearPoints(places, nearDistance).near,
})
