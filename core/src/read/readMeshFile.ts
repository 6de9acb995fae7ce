import { plainText } from './plainText'
import { bad, formats, formatWords, good, type FileKind, type Outcome } from '@stern-gate/contract'
import { fileKind, FILE_KIND_BYTES } from './fileKind'
import type { LoadDraco } from './gltfIo'
import { gltfReferences, libraryPlace, type GltfReference } from './gltfReferences'
import type { GltfContainer } from './gltfContainer'
import { readGltfContainer } from './readGltfContainer'
import { readObj } from './translate/readObj'
import { readPly } from './translate/readPly'
import { readStl } from './translate/readStl'

/**
 * Reads a format that is no glTF into the form of one. `resource` gives the bytes of a file beside it by the
 * path that is written, or null.
 */
export type MeshTranslator = (
  bytes: Uint8Array,
  path: string,
  resource: (written: string) => Uint8Array | null,
) => Outcome<GltfContainer> | Promise<Outcome<GltfContainer>>

/** Formats that are read here, without a library. */
const ownTranslators: Partial<Record<FileKind, MeshTranslator>> = { obj: readObj, stl: readStl, ply: readPly }

/** What whoever runs the core adds to it: readers that need a library. */
export interface MoreReaders {
  translators?: Partial<Record<FileKind, MeshTranslator>>
  draco?: LoadDraco
}

export interface OpenedMesh {
  container: GltfContainer
  references: GltfReference[]
}

/**
 * Opens a mesh file of any format. `find` gives the bytes of a file of the delivery by its path, or null.
 * Faults: those of readGltfContainer, gltfReferences and the translators.
 */
export async function openMeshFile(
  bytes: Uint8Array,
  path: string,
  find: (asked: string) => Uint8Array | null,
  more: MoreReaders = {},
): Promise<Outcome<OpenedMesh>> {
  const kind = fileKind(bytes.subarray(0, FILE_KIND_BYTES), path)
  const container = await translate(
    kind,
    bytes,
    path,
    (written) => find(libraryPlace(path, written).asked),
    more,
  )
  if (!container.ok) return container
  const references = gltfReferences(container.value, path)
  return references.ok ? good({ container: container.value, references: references.value }) : references
}

async function translate(
  kind: FileKind,
  bytes: Uint8Array,
  path: string,
  resource: (written: string) => Uint8Array | null,
  more: MoreReaders,
): Promise<Outcome<GltfContainer>> {
  const plain = kind !== 'unknown' && formats[kind].isText ? plainText(bytes) : bytes
  const translator = ownTranslators[kind] ?? more.translators?.[kind]
  if (!translator) return readGltfContainer(plain)
  try {
    return await translator(plain, path, resource)
  } catch {
    // What a library or the engine says is for programmers, and would not help who made the file
    return bad(
      'mesh/bad-structure',
      `The ${formatWords(kind)} cannot be put together from what stands in it.`,
      'The file is damaged or was written by a faulty exporter; export it again.',
    )
  }
}
