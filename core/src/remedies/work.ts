import type { Document, Texture } from '@gltf-transform/core'
import { good, type Outcome } from '@stern-gate/contract'
import { fileStem, resolveReference } from '../read/deliveryPath'
import { gltfReferences } from '../read/gltfReferences'
import { readGltfContainer } from '../read/readGltfContainer'
import { readMesh } from '../read/readMesh'
import { textureNames } from '../scene/textureNames'

/** One texture while a recipe works on it. */
export interface WorkTexture {
  /** Current name; steps may also use any earlier one. */
  name: string
  aliases: string[]
  /** Path of the file in the output; null while it stands inside the mesh. */
  path: string | null
  bytes: Uint8Array
  /** The pictures of the Document that this texture is. */
  pictures: Texture[]
}

/** An asset while a recipe works on it. Remedies change it in place; it was opened for them alone. */
export interface Work {
  name: string
  kind: 'mesh' | 'texture-set'
  /** Path of the mesh file in the output; null for a texture set. */
  path: string | null
  document: Document | null
  textures: WorkTexture[]
  /** Pictures whose file did not come: they keep pointing at the path that was asked for. */
  missing: { picture: Texture; asked: string }[]
}

export interface SourceFile { path: string; part: 'mesh' | 'buffer' | 'texture'; bytes: Uint8Array }

/** Opens the files of an asset for mending. Faults: those of reading a mesh. */
export async function openWork(name: string, kind: Work['kind'], main: string, files: readonly SourceFile[]): Promise<Outcome<Work>> {
  const textures = files.filter((f) => f.part === 'texture')
  if (kind === 'texture-set') {
    const names = textureNames([], textures.map((f) => f.path)).files
    return good({ name, kind, path: null, document: null, missing: [], textures: textures.map((f, i) => ({ name: names[i]!, aliases: [], path: f.path, bytes: f.bytes, pictures: [] })) })
  }
  const bytes = files.find((f) => f.path === main)?.bytes ?? new Uint8Array(0)
  const container = readGltfContainer(bytes)
  if (!container.ok) return container
  const references = gltfReferences(container.value, main)
  if (!references.ok) return references
  const paths = files.map((f) => f.path)
  const source = await readMesh(container.value, references.value, (asked) => files.find((f) => f.path === resolveReference(asked, paths)?.path)?.bytes ?? null)
  if (!source.ok) return source
  const pictures = source.value.document.getRoot().listTextures()
  const embedded = source.value.images.filter((i) => i.bytes !== null)
  const texturePaths = textures.map((f) => f.path)
  const names = textureNames(embedded.map((i) => i.name), texturePaths)
  const pathOf = (asked: string | null) => (asked === null ? undefined : resolveReference(asked, texturePaths)?.path)
  return good({
    name: fileStem(main), kind, document: source.value.document,
    path: main.replace(/\.gltf$/i, '.glb'),
    textures: [
      ...embedded.map((image, i) => ({ name: names.embedded[i]!, aliases: [], path: null, bytes: image.bytes!, pictures: [pictures[image.index]!] })),
      ...textures.map((file, i) => ({ name: names.files[i]!, aliases: [], path: file.path, bytes: file.bytes, pictures: source.value.images.filter((m) => pathOf(m.asked) === file.path).map((m) => pictures[m.index]!) })),
    ],
    missing: source.value.images.filter((i) => i.asked !== null && pathOf(i.asked) === undefined).map((i) => ({ picture: pictures[i.index]!, asked: i.asked! })),
  })
}

/** The texture of a name, current or earlier. */
export const findTexture = (work: Work, name: string): WorkTexture | null =>
  work.textures.find((t) => t.name === name) ?? work.textures.find((t) => t.aliases.includes(name)) ?? null
