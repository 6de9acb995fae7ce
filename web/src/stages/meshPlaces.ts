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

/** The triangles of several meshes as one list, with their vertices numbered from `first` on. */
export function joinedCorners(lists: readonly { indices: ArrayLike<number>; first: number }[]): Uint32Array {
  const all = new Uint32Array(lists.reduce((sum, l) => sum + l.indices.length, 0))
  let at = 0
  for (const { indices, first } of lists)
    for (let k = 0; k < indices.length; k++) all[at++] = indices[k]! + first
  return all
}
