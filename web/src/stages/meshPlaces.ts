import { type BufferGeometry, type Mesh, SkinnedMesh, Vector3 } from 'three'

/** x y z of each vertex in the space of its mesh. */
export function placesOf(geometry: BufferGeometry): Float32Array {
  const position = geometry.getAttribute('position'),
    places = new Float32Array(position.count * 3)
  for (let v = 0; v < position.count; v++) {
    places[v * 3] = position.getX(v)
    places[v * 3 + 1] = position.getY(v)
    places[v * 3 + 2] = position.getZ(v)
  }
  return places
}

/** Vertices in the world, as they are drawn at rest. */
export function worldOf(mesh: Mesh): Float32Array {
  const places = placesOf(mesh.geometry),
    at = new Vector3()
  mesh.updateWorldMatrix(true, false)
  for (let v = 0; v < places.length / 3; v++) {
    if (mesh instanceof SkinnedMesh) mesh.getVertexPosition(v, at)
    else at.fromArray(places, v * 3)
    at.applyMatrix4(mesh.matrixWorld).toArray(places, v * 3)
  }
  return places
}

/** Three vertices a triangle. */
export const cornersOf = (geometry: BufferGeometry): ArrayLike<number> =>
  geometry.index?.array ?? Uint32Array.from({ length: geometry.getAttribute('position').count }, (_, k) => k)

/** Several meshes as one surface; `pieces` says where each of them begins, in their order. */
export interface JoinedMeshes {
  positions: Float32Array
  indices: Uint32Array
  pieces: { first: number; firstTriangle: number; triangles: number }[]
}

/** Joins meshes, with their places in the world or as `places` gives them. */
export function joinMeshes(
  meshes: readonly Mesh[],
  places: (mesh: Mesh) => Float32Array = worldOf,
): JoinedMeshes {
  const lists = meshes.map((mesh) => ({ own: places(mesh), corners: cornersOf(mesh.geometry) }))
  const sum = (of: (list: (typeof lists)[number]) => number): number =>
    lists.reduce((all, list) => all + of(list), 0)
  const positions = new Float32Array(sum((l) => l.own.length)),
    indices = new Uint32Array(sum((l) => l.corners.length))
  let first = 0,
    at = 0
  const pieces = lists.map(({ own, corners }) => {
    const piece = { first, firstTriangle: at / 3, triangles: corners.length / 3 }
    positions.set(own, first * 3)
    for (let k = 0; k < corners.length; k++) indices[at++] = corners[k]! + first
    first += own.length / 3
    return piece
  })
  return { positions, indices, pieces }
}
