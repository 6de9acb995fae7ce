import type { Document, Mesh, Node, Texture } from '@gltf-transform/core'
import { extractNodes } from '../apart/extractNodes'
import { identityMatrix } from '../geometry/matrix'
import { partsOfDocument } from '../measure/partsOfDocument'
import { fileStem } from '../read/deliveryPath'
import { dropChains } from '../read/lodExtension'
import type { Work } from '../remedies/work'
import { nodePaths } from '../scene/nodePaths'
import { partFilePath } from '../scene/partFilePath'

/** A level or the collision of an asset as a Document of its own. */
export interface OwnPart {
  path: string
  document: Document
  /** The picture of the whole asset that a picture of this Document was copied from. */
  sourceOf: ReadonlyMap<Texture, Texture>
}

/**
 * Takes coarser levels and collision out of the Document into Documents of their own, in its place and with its
 * origin. Slots and pictures that only they used go with them. Edits `document` in place; `path` is that of the mesh.
 */
export function splitParts(
  document: Document,
  path: string,
  { levels: ofLevels, hulls }: NonNullable<Work['ownFiles']>,
): OwnPart[] {
  const { levels, collision, finest } = partsOfDocument(document)
  if (finest.length === 0) return []
  const groups = [
    ...(ofLevels ? [...levels].slice(1) : []).map(([level, nodes]) => ({
      mark: `lod${level}` as const,
      nodes,
    })),
    ...(hulls && collision.length > 0 ? [{ mark: 'hull' as const, nodes: collision }] : []),
  ]
  const paths = nodePaths(document),
    pictures = document.getRoot().listTextures()
  const parts = groups.map(({ mark, nodes }) => {
    const own = partFilePath(path, mark, 'glb')
    const wanted = new Set(nodes.map((n) => n.path))
    const piece = extractNodes(document, paths, wanted, fileStem(own), identityMatrix)
    dropChains(piece.document)
    const sourceOf = new Map(
      [...piece.pictures].map(([own, number]) => [own as Texture, pictures[number]!] as const),
    )
    return { path: own, document: piece.document, sourceOf }
  })
  if (ofLevels && levels.size > 1) dropChains(document)
  takeOut(
    document,
    groups.flatMap(({ nodes }) => nodes.map((n) => n.node)),
  )
  return parts
}

/** Takes meshes off nodes, with the nodes that carry nothing else and the slots that nothing uses any more. */
function takeOut(document: Document, nodes: readonly Node[]): void {
  const slots = new Set(
    nodes.flatMap(
      (n) =>
        n
          .getMesh()
          ?.listPrimitives()
          .map((p) => p.getMaterial()) ?? [],
    ),
  )
  const meshes = new Set(nodes.flatMap((n) => n.getMesh() ?? []))
  const pictures = document
      .getRoot()
      .listTextures()
      .filter((p) => !isUnused(p)),
    skins = document
      .getRoot()
      .listSkins()
      .filter((s) => !isUnused(s))
  for (const node of nodes) {
    node.setMesh(null).setSkin(null)
    if (isEmpty(node)) node.dispose()
  }
  for (const mesh of meshes) if (isUnused(mesh)) disposeMesh(mesh)
  for (const skin of skins) if (isUnused(skin)) skin.dispose()
  for (const slot of slots) if (slot && isUnused(slot)) slot.dispose()
  for (const picture of pictures) if (isUnused(picture)) picture.dispose()
}

/** Nothing hangs on it, no clip moves it and it is no bone. */
const isEmpty = (node: Node): boolean =>
  node.listChildren().length === 0 &&
  node.listExtensions().length === 0 &&
  !node.getCamera() &&
  node.listParents().every((p) => ['Root', 'Scene', 'Node'].includes(p.propertyType))

const isUnused = (property: { listParents: () => { propertyType: string }[] }): boolean =>
  property.listParents().every((p) => p.propertyType === 'Root')

function disposeMesh(mesh: Mesh): void {
  for (const primitive of mesh.listPrimitives()) primitive.dispose()
  mesh.dispose()
}
