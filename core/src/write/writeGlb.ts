import { Format, type Document, type GLTF, type Texture } from '@gltf-transform/core'
import { createGltfIo } from '../read/gltfIo'
import { joinBytes } from './pngColourSpace'

/** What to write for a picture of the Document: its bytes inside the file, or a path to it. */
export type PictureTarget = { embed: Uint8Array } | { uri: string }

/** Extensions that only describe how bytes were packed; read data is plain. */
const PACKING = ['EXT_meshopt_compression', 'KHR_draco_mesh_compression']

/**
 * Writes the Document as GLB with one binary chunk. Pictures are embedded or referenced as `pictureTarget`
 * says. Moves the Document's accessors into one buffer.
 */
export async function writeGlb(
  document: Document,
  pictureTarget: (picture: Texture) => PictureTarget,
): Promise<Uint8Array> {
  useOneBuffer(document)
  for (const extension of document.getRoot().listExtensionsUsed())
    if (PACKING.includes(extension.extensionName)) extension.dispose()
  const { json, resources } = await (
    await createGltfIo()
  ).writeJSON(document, { format: Format.GLTF, basename: 'mesh' })
  const uri = json.buffers?.[0]?.uri
  const pieces: Uint8Array[] = [(uri === undefined ? undefined : resources[uri]) ?? new Uint8Array(0)]
  let length = pad(pieces)
  for (const [i, picture] of document.getRoot().listTextures().entries()) {
    const image = json.images![i]!
    const target = pictureTarget(picture)
    delete image.uri
    if ('uri' in target) {
      image.uri = encodeURI(target.uri).replaceAll('#', '%23').replaceAll('?', '%3F')
      continue
    }
    json.bufferViews = [
      ...(json.bufferViews ?? []),
      { buffer: 0, byteOffset: length, byteLength: target.embed.length },
    ]
    image.bufferView = json.bufferViews.length - 1
    pieces.push(target.embed)
    length += pad(pieces, target.embed.length)
  }
  return packGlb(json, joinBytes(pieces))
}

/** Fills the last piece up to four bytes; returns the length with the filling. */
function pad(pieces: Uint8Array[], length = pieces[0]!.length): number {
  const filling = (4 - (length % 4)) % 4
  if (filling > 0) pieces.push(new Uint8Array(filling))
  return length + filling
}

function useOneBuffer(document: Document): void {
  const root = document.getRoot()
  const [first, ...others] = root.listBuffers()
  const buffer = first ?? document.createBuffer()
  for (const accessor of root.listAccessors()) {
    // What a step put something else in place of is no longer part of the file
    if (accessor.listParents().every((parent) => parent === root)) accessor.dispose()
    else accessor.setBuffer(buffer)
  }
  for (const other of others) other.dispose()
}

function packGlb(json: GLTF.IGLTF, binary: Uint8Array): Uint8Array {
  if (binary.length > 0) json.buffers = [{ byteLength: binary.length }]
  else delete json.buffers
  const text = new TextEncoder().encode(JSON.stringify(json))
  const filled = new Uint8Array(text.length + ((4 - (text.length % 4)) % 4)).fill(0x20)
  filled.set(text)
  const chunks = [
    chunkHeader(filled.length, 0x4e4f534a),
    filled,
    ...(binary.length > 0 ? [chunkHeader(binary.length, 0x004e4942), binary] : []),
  ]
  const total = 12 + chunks.reduce((sum, c) => sum + c.length, 0)
  return joinBytes([new Uint8Array(Uint32Array.of(0x46546c67, 2, total).buffer), ...chunks])
}

const chunkHeader = (length: number, type: number): Uint8Array =>
  new Uint8Array(Uint32Array.of(length, type).buffer)
