import type { Document, Material, Node, Texture } from '@gltf-transform/core'
import { mergeDocuments } from '@gltf-transform/functions'
import { faultAt, good, type FilePart, type Outcome } from '@stern-gate/contract'
import { fileStem, resolveReference } from '../read/deliveryPath'
import { readMesh, type MeshImageSource } from '../read/readMesh'
import { openMeshFile, type MoreReaders } from '../read/readMeshFile'
import { baseName } from '../scene/meshParts'
import { holderName } from '../subject/mergeMeshFacts'
import { shownNodes, shownScene } from '../scene/nodePaths'
import { textureNames } from '../scene/textureNames'

/** One texture while a recipe works on it. */
export interface WorkTexture {
  /** Current name; steps may also use any earlier one, and the path that it came by. */
  name: string
  aliases: string[]
  /** Path of the file in the output; null while it stands inside the mesh. */
  path: string | null
  bytes: Uint8Array
  /** The pictures of the Document that this texture is. */
  pictures: Texture[]
  /** What it carries is in another texture now: it is written only where a slot still uses it. */
  spent?: boolean
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
  /** Pattern of the names of surface files, where they are wanted beside the mesh. */
  surfaceFiles?: string
  /** Parts that are written as files of their own beside the mesh. */
  ownFiles?: { levels: boolean; hulls: boolean }
}

export interface SourceFile {
  path: string
  part: FilePart
  bytes: Uint8Array
}

/** Opens the files of an asset for mending. Faults: those of reading a mesh. */
export async function openWork(
  name: string,
  kind: Work['kind'],
  main: string,
  files: readonly SourceFile[],
  more: MoreReaders = {},
): Promise<Outcome<Work>> {
  const textures = files.filter((f) => f.part === 'texture')
  if (kind === 'texture-set') {
    const names = textureNames(
      [],
      textures.map((f) => f.path),
    ).files
    return good({
      name,
      kind,
      path: null,
      document: null,
      missing: [],
      textures: textures.map((f, i) => ({
        name: names[i]!,
        aliases: [f.path],
        path: f.path,
        bytes: f.bytes,
        pictures: [],
      })),
    })
  }
  const opened = await openMesh(files, main, more)
  if (!opened.ok) return opened
  const sheets: Opened[] = [opened.value]
  for (const file of files) {
    if (file.part !== 'mesh' || file.path === main) continue
    const other = await openMesh(files, file.path, more)
    if (!other.ok) return { ok: false, fault: faultAt(other.fault, { file: file.path }) }
    sheets.push(joinMesh(opened.value.document, other.value, holderName(file.path)))
  }
  return good(assembleWork(sheets, main, textures))
}

/** A mesh file that was read: its Document, and its pictures as they stand in the joined one. */
interface Opened {
  document: Document
  images: MeshImageSource[]
  pictures: Texture[]
}

async function openMesh(
  files: readonly SourceFile[],
  path: string,
  more: MoreReaders,
): Promise<Outcome<Opened>> {
  const paths = files.map((f) => f.path)
  const find = (asked: string) =>
    files.find((f) => f.path === resolveReference(asked, paths)?.path)?.bytes ?? null
  const mesh = await openMeshFile(
    files.find((f) => f.path === path)?.bytes ?? new Uint8Array(0),
    path,
    find,
    more,
  )
  if (!mesh.ok) return mesh
  const source = await readMesh(mesh.value.container, mesh.value.references, find, more.draco)
  return source.ok
    ? good({
        document: source.value.document,
        images: source.value.images,
        pictures: source.value.document.getRoot().listTextures(),
      })
    : source
}

/**
 * Puts a further mesh file under a node of its name into the main Document; slots of one name become one.
 * Edits `target` in place.
 */
function joinMesh(target: Document, other: Opened, holder: string): Opened {
  const own = target.getRoot().listMaterials()
  const roots = shownNodes(other.document)
  const map = mergeDocuments(target, other.document)
  const node = target.createNode(holder)
  for (const root of roots) node.addChild(map.get(root) as Node)
  for (const scene of other.document.getRoot().listScenes()) map.get(scene)?.dispose()
  const scene = shownScene(target) ?? target.createScene()
  scene.addChild(node)
  for (const slot of other.document.getRoot().listMaterials()) {
    const same = own.find((s) => s.getName() === slot.getName()),
      copy = map.get(slot) as Material
    if (!same) continue
    for (const primitive of target
      .getRoot()
      .listMeshes()
      .flatMap((m) => m.listPrimitives()))
      if (primitive.getMaterial() === copy) primitive.setMaterial(same)
    copy.dispose()
  }
  return { ...other, document: target, pictures: other.pictures.map((p) => map.get(p) as Texture) }
}

function assembleWork(sheets: readonly Opened[], main: string, textures: readonly SourceFile[]): Work {
  const all = sheets.flatMap(({ images, pictures }) =>
    images.map((image) => ({ ...image, picture: pictures[image.index]! })),
  )
  const embedded = all.filter((i) => i.bytes !== null)
  const texturePaths = textures.map((f) => f.path)
  const names = textureNames(
    embedded.map((i) => i.name),
    texturePaths,
  )
  const pathOf = (asked: string | null) =>
    asked === null ? undefined : resolveReference(asked, texturePaths)?.path
  return {
    name: baseName(fileStem(main)),
    kind: 'mesh',
    document: sheets[0]!.document,
    path: main.replace(
      /[^/]*$/,
      (file) => `${sheets.length > 1 ? baseName(fileStem(file)) : fileStem(file)}.glb`,
    ),
    textures: [
      ...embedded.map((image, i) => ({
        name: names.embedded[i]!,
        aliases: [],
        path: null,
        bytes: image.bytes!,
        pictures: [image.picture],
      })),
      ...textures.map((file, i) => ({
        name: names.files[i]!,
        aliases: [file.path],
        path: file.path,
        bytes: file.bytes,
        pictures: all.filter((m) => pathOf(m.asked) === file.path).map((m) => m.picture),
      })),
    ],
    missing: all
      .filter((i) => i.asked !== null && pathOf(i.asked) === undefined)
      .map((i) => ({ picture: i.picture, asked: i.asked! })),
  }
}

/** The texture of a name, current or earlier. */
export const findTexture = (work: Work, name: string): WorkTexture | null =>
  work.textures.find((t) => t.name === name) ?? work.textures.find((t) => t.aliases.includes(name)) ?? null
