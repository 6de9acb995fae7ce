import type { MeshSource } from '../read/readMesh'

/** A file that taking apart makes: a part as GLB, or a picture that stood inside the scene. */
export interface PieceFile {
  path: string
  part: 'mesh' | 'texture'
  bytes: Uint8Array
}

/**
 * Paths of the pictures of a scene, by their numbers, for parts to point at: those that came as files stay where
 * they are, those inside the scene become files of the folder, equal ones one.
 */
export function pictureFiles(
  { images }: Pick<MeshSource, 'images'>,
  folder: string,
  hash: (bytes: Uint8Array) => string,
): { places: string[]; files: PieceFile[] } {
  const files = new Map<string, PieceFile>()
  const taken = new Set<string>()
  const places = images.map((image) => {
    if (!image.bytes) return image.asked!
    const key = hash(image.bytes)
    const known = files.get(key)
    if (known) return known.path
    const [, stem, extension] = /^(.*?)(\.[^.]*)?$/.exec(image.name) as unknown as [string, string, string?]
    let path = `${folder}/textures/${image.name}`
    for (let n = 2; taken.has(path.toLowerCase()); n++)
      path = `${folder}/textures/${stem}_${n}${extension ?? ''}`
    taken.add(path.toLowerCase())
    files.set(key, { path, part: 'texture', bytes: image.bytes })
    return path
  })
  return { places, files: [...files.values()] }
}
