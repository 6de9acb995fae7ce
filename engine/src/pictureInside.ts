import { bad, good, type Outcome } from '@stern-gate/contract'
import { meshImages, openMeshFile } from '@stern-gate/core'
import { sha256 } from './hashing'
import { libraryReaders } from './libraryReaders'

/**
 * The bytes of a picture that stands inside a mesh file, by their hash. Faults: those of the container;
 * image/undecodable where no picture of the file has this hash.
 */
export async function pictureInside(
  mesh: Uint8Array,
  path: string,
  hash: string,
): Promise<Outcome<Uint8Array>> {
  const opened = await openMeshFile(mesh, path, () => null, libraryReaders)
  if (!opened.ok) return opened
  const images = meshImages(opened.value.container, opened.value.references)
  if (!images.ok) return images
  for (const { bytes } of images.value) if (bytes && sha256(bytes) === hash) return good(bytes)
  return bad('image/undecodable', 'The picture is not inside the mesh.', 'Export the file again.')
}
