import sharp from 'sharp'
import type { Node, Primitive } from '@gltf-transform/core'
import type { Bounds, MeshFacts } from '@stern-gate/contract'
import {
  drawThumbnail,
  joinBounds,
  linearToSrgb,
  partsOfMesh,
  primitiveView,
  readTextureHeader,
  transformPoints,
  worldPositions,
  floatsOf,
  nodePaths,
  type MeshSource,
  type Pixels,
  type ThumbnailPiece,
} from '@stern-gate/core'
import { encodePng } from './imagePorts'

/** Textures are drawn from pictures of this size; more cannot be seen. */
const PICTURE_SIDE = 256

/** Draws the finest level of a mesh; null when there is nothing to draw. */
export async function meshThumbnail(
  source: MeshSource,
  facts: MeshFacts,
  read: (asked: string) => Uint8Array | null,
  size: number,
): Promise<Uint8Array | null> {
  const levels = partsOfMesh(facts.nodes ?? []).levels
  const finest = levels.get(Math.min(...levels.keys())) ?? []
  const pixels = drawNodes(
    source,
    finest.map((n) => n.path),
    joinBounds(finest.map((n) => n.bounds)),
    await baseColourPictures(source, read),
    size,
  )
  return pixels ? encodePng(pixels) : null
}

/** Draws nodes of a file, by path, so that their box fills the picture; null when there is nothing to draw. */
export function drawNodes(
  source: MeshSource,
  paths: readonly string[],
  bounds: Bounds | null,
  pictures: ReadonlyMap<number, Pixels>,
  size: number,
): Pixels | null {
  if (!bounds) return null
  const drawn = new Set(paths)
  const pieces: ThumbnailPiece[] = []
  for (const [node, path] of nodePaths(source.document)) {
    if (!drawn.has(path)) continue
    const linear = Array.from(node.getWorldMatrix())
    linear[12] = linear[13] = linear[14] = 0
    for (const primitive of node.getMesh()?.listPrimitives() ?? [])
      pieces.push(thumbnailPiece(source, node, primitive, linear, pictures))
  }
  return drawThumbnail(pieces, bounds, size)
}

function thumbnailPiece(
  source: MeshSource,
  node: Node,
  primitive: Primitive,
  linear: readonly number[],
  pictures: ReadonlyMap<number, Pixels>,
): ThumbnailPiece {
  const view = primitiveView(primitive)
  const normal = primitive.getAttribute('NORMAL')
  const material = primitive.getMaterial()
  const texture = material?.getBaseColorTexture() ?? null
  const picture = texture
    ? (pictures.get(source.document.getRoot().listTextures().indexOf(texture)) ?? null)
    : null
  const factor = material?.getBaseColorFactor() ?? [0.8, 0.8, 0.8, 1]
  return {
    positions: worldPositions(node, primitive, view.positions),
    normals: normal && !node.getSkin() ? transformPoints(floatsOf(normal), linear) : null,
    // Without UVs every vertex has the corner of the sheet, as on the stage
    uvs:
      view.uvs[material?.getBaseColorTextureInfo()?.getTexCoord() ?? 0] ??
      (picture ? new Float32Array((view.positions.length / 3) * 2) : null),
    indices: view.indices,
    colour: [linearToSrgb(factor[0]), linearToSrgb(factor[1]), linearToSrgb(factor[2])],
    picture,
  }
}

/** Small pictures of the base colours, by the number of their texture. */
export async function baseColourPictures(
  source: MeshSource,
  read: (asked: string) => Uint8Array | null,
): Promise<Map<number, Pixels>> {
  const wanted = new Set(
    source.document
      .getRoot()
      .listMaterials()
      .map((m) => m.getBaseColorTexture()),
  )
  const pictures = new Map<number, Pixels>()
  for (const [index, texture] of source.document.getRoot().listTextures().entries()) {
    if (!wanted.has(texture)) continue
    const image = source.images[index]!
    const bytes = image.bytes ?? (image.asked === null ? null : read(image.asked))
    const picture = bytes ? await smallPicture(bytes) : null
    if (picture) pictures.set(index, picture)
  }
  return pictures
}

/**
 * A picture that cannot be read leaves its surface in the slot's own colour; that it is broken is said
 * elsewhere.
 */
async function smallPicture(bytes: Uint8Array): Promise<Pixels | null> {
  if (!readTextureHeader(bytes).ok) return null
  try {
    const { data, info } = await sharp(bytes, { ignoreIcc: true })
      .resize(PICTURE_SIDE, PICTURE_SIDE, { fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true })
    return {
      width: info.width,
      height: info.height,
      channels: info.channels,
      depth: 8,
      data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    }
  } catch {
    return null
  }
}
