import { isTextureKind, kindByExtension } from './fileKind'
import type { Document, GLTF, JSONDocument } from '@gltf-transform/core'
import { bad, cutText, faultAt, good, type Outcome, formats, textureFormats } from '@stern-gate/contract'
import { createGltfIo, DRACO, readExtensions, type LoadDraco } from './gltfIo'
import { dataUriBytes, isDataUri, type GltfReference } from './gltfReferences'
import { fileName } from './deliveryPath'
import { showLevels } from './lodExtension'
import type { GltfContainer } from './gltfContainer'
import { sharedAccessors } from './sharedAccessors'

/** An image of a mesh file: where it stands and, when embedded, its bytes. */
export interface MeshImageSource {
  index: number
  name: string
  /** Path asked for, inside the delivery; null when embedded. */
  asked: string | null
  mimeType: string
  bytes: Uint8Array | null
}

/** A mesh file read whole. The Document is in metres, Y up; external images stand in it without bytes. */
export interface MeshSource {
  document: Document
  images: MeshImageSource[]
  extensionsLost: string[]
}

/** Key under which the reader expects the binary chunk of a GLB. */
const GLB_CHUNK = '@glb.bin'

/** Whether accessors are copies, or look into the file's own bytes: then nobody may write to them. */
export type AccessorBytes = 'copied' | 'shared'

/**
 * Reads an opened glTF. `resource` gives the bytes of an external buffer, or null when it did not come.
 * Faults: gltf/missing-buffer, gltf/extension-not-read, gltf/bad-structure, gltf/out-of-bounds.
 */
export async function readMesh(
  container: GltfContainer,
  references: GltfReference[],
  resource: (asked: string) => Uint8Array | null,
  draco?: LoadDraco,
  bytes: AccessorBytes = 'copied',
): Promise<Outcome<MeshSource>> {
  const known = (e: string): boolean => readExtensions.has(e) && (e !== DRACO || draco !== undefined)
  const required = container.json.extensionsRequired.find((e) => !known(e) && PACKS_GEOMETRY.test(e))
  if (required !== undefined)
    return bad(
      'gltf/extension-not-read',
      `The file requires ${cutText(required, 80, '…')}, which is not read yet.`,
      'Export without it (for compressed meshes: without compression).',
      { part: 'extensionsRequired' },
    )
  const images = meshImages(container, references)
  if (!images.ok) return images
  const jsonDocument = withResources(container, references, resource)
  if (!jsonDocument.ok) return jsonDocument
  const { jsonDocument: plain, share } =
    bytes === 'shared'
      ? sharedAccessors(jsonDocument.value, GLB_CHUNK)
      : { jsonDocument: jsonDocument.value, share: () => undefined }
  const document = await buildDocument(
    plain,
    container.json.extensionsUsed.includes(DRACO) ? draco : undefined,
  )
  if (!document.ok) return document
  share(document.value.document)
  showLevels(document.value.document)
  // What else a file requires, such as features and metadata, is named as lost; its mesh can be judged
  const extensionsLost = container.json.extensionsUsed.filter(
    (e) => !known(e) || document.value.without.includes(e),
  )
  return good({ document: document.value.document, images: images.value, extensionsLost })
}

/** Extensions without which points and triangles cannot be found in the file. */
const PACKS_GEOMETRY = /draco|meshopt|compress|quantiz|spz|splat/i

/** Extensions that hold a mesh, its slots and its pictures; all others can be done without. */
const essential = (name: string): boolean =>
  /^(KHR_(draco|meshopt|mesh_quantization|materials_|texture_|accessor_|xmp|lights)|EXT_(meshopt|texture_|mesh_gpu_instancing))/.test(
    name,
  )

/**
 * Puts the Document together. Where data of an extension that a mesh can do without are not as its library
 * expects them, the file is read once more without that extension; `without` names what was left out.
 */
async function buildDocument(
  jsonDocument: JSONDocument,
  draco?: LoadDraco,
): Promise<Outcome<{ document: Document; without: string[] }>> {
  const decoder = await draco?.()
  const read = async (known: (name: string) => boolean) =>
    (await createGltfIo(decoder, known)).readJSON(jsonDocument)
  try {
    return good({ document: await read(() => true), without: [] })
  } catch {
    const required = jsonDocument.json.extensionsRequired?.filter(essential)
    if (required) jsonDocument.json.extensionsRequired = required
  }
  try {
    const without = (jsonDocument.json.extensionsUsed ?? []).filter(
      (e) => readExtensions.has(e) && !essential(e),
    )
    return good({ document: await read(essential), without })
  } catch {
    return bad(
      'gltf/bad-structure',
      'The glTF cannot be put together: something in it refers to what is not there.',
      'The file is damaged or was written by a faulty exporter; export it again.',
    )
  }
}

function withResources(
  container: GltfContainer,
  references: GltfReference[],
  resource: (asked: string) => Uint8Array | null,
): Outcome<JSONDocument> {
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {}
  const put = (key: string, bytes: Uint8Array) => (resources[key] = bytes as Uint8Array<ArrayBuffer>)
  if (container.binary) put(GLB_CHUNK, container.binary)
  const buffers = []
  for (const [i, buffer] of container.json.buffers.entries()) {
    const reference = references.find((r) => r.kind === 'buffer' && r.index === i)
    if (buffer.uri === undefined) {
      buffers.push(buffer)
      continue
    }
    const bytes = reference
      ? externalBuffer(reference, buffer.byteLength, resource)
      : dataUriBytes(buffer.uri, `buffers.${i}`)
    if (!bytes.ok) return bytes
    if (bytes.value.length < buffer.byteLength)
      return bad(
        'gltf/out-of-bounds',
        `Buffer ${i} claims ${buffer.byteLength} bytes, its data has ${bytes.value.length}.`,
        'Export the file again; its buffer is cut short.',
        { part: `buffers.${i}` },
      )
    put(`__buffer${i}`, bytes.value)
    buffers.push({ ...buffer, uri: `__buffer${i}` })
  }
  // Images go their own way: the Document carries placeholders, so that no picture is held twice
  const images = container.json.images.map((image, i) => {
    put(`__image${i}`, new Uint8Array(0))
    return {
      ...(image.name === undefined ? {} : { name: image.name }),
      uri: `__image${i}`,
      mimeType: image.mimeType ?? mimeTypeByName(image.uri ?? ''),
    }
  })
  const extensionsRequired = container.json.extensionsRequired.filter((e) => readExtensions.has(e))
  return good({
    json: { ...container.json, buffers, images, extensionsRequired } as unknown as GLTF.IGLTF,
    resources,
  })
}

function externalBuffer(
  reference: GltfReference,
  byteLength: number,
  resource: (asked: string) => Uint8Array | null,
): Outcome<Uint8Array> {
  const bytes = resource(reference.asked)
  if (bytes) return good(bytes)
  return bad(
    'gltf/missing-buffer',
    `The file keeps its ${byteLength} bytes of geometry in ${fileName(reference.asked)}, which did not come.`,
    'Deliver the .bin file together with the .gltf.',
    { reference: reference.asked },
  )
}

/** Media types of pictures and what their files end with; BMP is named as such and not read. */
const pictureEndings: Readonly<Record<string, string>> = {
  ...Object.fromEntries(
    textureFormats.map((format) => [formats[format].mediaType, `.${formats[format].extensions[0]}`]),
  ),
  'image/bmp': '.bmp',
}

/** MIME type that an extension stands for; application/octet-stream when unknown. */
export function mimeTypeByName(name: string): string {
  const kind = kindByExtension(name)
  if (kind !== 'unknown' && isTextureKind(kind)) return formats[kind].mediaType!
  return /\.bmp$/i.test(name) ? 'image/bmp' : 'application/octet-stream'
}

/** The pictures that a container asks for, with the bytes of those that stand inside it. Faults: gltf/bad-structure. */
export function meshImages(
  container: GltfContainer,
  references: GltfReference[],
): Outcome<MeshImageSource[]> {
  const images: MeshImageSource[] = []
  for (const [index, image] of container.json.images.entries()) {
    const reference = references.find((r) => r.kind === 'image' && r.index === index)
    if (reference) {
      images.push({
        index,
        name: fileName(reference.asked),
        asked: reference.asked,
        mimeType: image.mimeType ?? mimeTypeByName(reference.asked),
        bytes: null,
      })
      continue
    }
    const bytes = embeddedBytes(container, index)
    if (!bytes.ok) return { ok: false, fault: faultAt(bytes.fault, { part: `images.${index}` }) }
    const mimeType =
      image.mimeType ?? /^data:([^;,]+)/i.exec(image.uri ?? '')?.[1] ?? 'application/octet-stream'
    images.push({
      index,
      name: embeddedName(image.name, mimeType, index),
      asked: null,
      mimeType,
      bytes: bytes.value,
    })
  }
  return good(images)
}

function embeddedName(name: string | undefined, mimeType: string, index: number): string {
  const extension = pictureEndings[mimeType] ?? ''
  const base = name?.trim() ? fileName(name.trim().replaceAll('\\', '/')) : `image_${index}`
  return /\.(png|jpe?g|webp|ktx2|avif|tiff?|tga|bmp)$/i.test(base) ? base : base + extension
}

function embeddedBytes(container: GltfContainer, index: number): Outcome<Uint8Array> {
  const image = container.json.images[index]!
  if (image.uri !== undefined && isDataUri(image.uri)) return dataUriBytes(image.uri, `images.${index}`)
  const view = container.json.bufferViews[image.bufferView ?? -1]
  const buffer = view && container.json.buffers[view.buffer]
  if (!view || !buffer)
    return bad('gltf/bad-structure', `Image ${index} has no data.`, 'Export the file again.')
  const source =
    buffer.uri === undefined
      ? good(container.binary ?? new Uint8Array(0))
      : isDataUri(buffer.uri)
        ? dataUriBytes(buffer.uri, `buffers.${view.buffer}`)
        : null
  if (!source)
    return bad(
      'gltf/bad-structure',
      `Image ${index} stands inside an external buffer; that is not read yet.`,
      'Export as GLB or with the textures as files.',
    )
  if (!source.ok) return source
  const from = view.byteOffset ?? 0
  return good(source.value.subarray(from, from + view.byteLength))
}
