import { cutText, nothingNoted, type MeshFilePart, type MeshImage } from '@stern-gate/contract'
import type { GltfReference } from '../read/gltfReferences'
import { mimeTypeByName, type MeshSource } from '../read/readMesh'
import type { GltfContainer } from '../read/gltfContainer'
import { fileName } from '../read/deliveryPath'
import { assetNotes } from '../scene/assetNotes'
import { strays } from '../scene/strays'
import { idleBones } from '../scene/idleBones'
import { nodePaths } from '../scene/nodePaths'
import { measureOrigin } from './measureOrigin'
import { measureClips } from './measureClips'

/** Some exporters write their whole licence here. */
const LONGEST_GENERATOR = 300

/**
 * What the container says: references, embedded images, strays, clips. Works without geometry, as far as it
 * goes.
 */
export function measureMeshFile(
  container: GltfContainer,
  references: GltfReference[],
  source: MeshSource | null,
  sizeBytes: number,
  hash: (bytes: Uint8Array) => string,
): MeshFilePart {
  const { json, format, origin } = container
  const lights = (json as { extensions?: { KHR_lights_punctual?: { lights?: unknown[] } } }).extensions
    ?.KHR_lights_punctual?.lights
  return {
    format,
    declared: { unitMetres: origin ? origin.unitMetres : 1, upAxis: origin ? origin.upAxis : 'y' },
    lost: [...(origin?.lost ?? [])],
    polygons: origin?.polygons ?? null,
    generator: cutText(json.asset.generator ?? '', LONGEST_GENERATOR),
    sizeBytes,
    extensionsUsed: json.extensionsUsed,
    extensionsLost: source?.extensionsLost ?? [],
    images: source
      ? source.images.map((image) => ({
          ...imageFacts(image, hash),
          unsafe: unsafeOf(references, image.index),
        }))
      : referencedImages(references),
    buffers: json.buffers.map((buffer, i) => ({
      uri: references.find((r) => r.kind === 'buffer' && r.index === i)?.asked ?? null,
      sizeBytes: buffer.byteLength,
    })),
    companions: (origin?.companions ?? []).map(({ sizeBytes }, i) => ({
      uri: references.find((r) => r.kind === 'library' && r.index === i)!.asked,
      sizeBytes,
    })),
    cameras: json.nodes.filter((n) => n.camera !== undefined).length,
    lights: Array.isArray(lights) ? lights.length : 0,
    emptyNodes: emptyNodes(container),
    strays: source ? strays(source.document) : [],
    skins: json.skins.length,
    ...measureBones(source),
    clips: source ? measureClips(source.document) : [],
    origin: origin ? null : measureOrigin(json),
    notes: source ? assetNotes(source.document) : nothingNoted,
  }
}

function measureBones(source: MeshSource | null): Pick<MeshFilePart, 'bones' | 'idleBones'> {
  if (!source) return { bones: 0, idleBones: [] }
  const paths = nodePaths(source.document)
  const joints = new Set(
    source.document
      .getRoot()
      .listSkins()
      .flatMap((s) => s.listJoints()),
  )
  return { bones: joints.size, idleBones: idleBones(source.document).map((bone) => paths.get(bone)!) }
}

function imageFacts(
  image: MeshSource['images'][number],
  hash: (bytes: Uint8Array) => string,
): Omit<MeshImage, 'unsafe'> {
  const embedded = image.asked === null
  return {
    index: image.index,
    name: image.name,
    uri: image.asked,
    mimeType: image.mimeType,
    embedded,
    sha256: image.bytes ? hash(image.bytes) : null,
    sizeBytes: image.bytes?.length ?? 0,
  }
}

/** Without geometry the references are still known, and a person wants to see them all. */
const referencedImages = (references: GltfReference[]): MeshImage[] =>
  references
    .filter((r) => r.kind === 'image')
    .map((r) => ({
      index: r.index,
      name: fileName(r.asked),
      uri: r.asked,
      mimeType: mimeTypeByName(r.asked),
      embedded: false,
      sha256: null,
      sizeBytes: 0,
      unsafe: r.unsafe,
    }))

const unsafeOf = (references: GltfReference[], image: number): string | null =>
  references.find((r) => r.kind === 'image' && r.index === image)?.unsafe ?? null

/** Nodes that carry nothing, hold nothing and move nothing. */
function emptyNodes({ json }: GltfContainer): number {
  const joints = new Set(json.skins.flatMap((s) => [...s.joints, s.skeleton ?? -1]))
  const moved = new Set(json.animations.flatMap((a) => a.channels.map((c) => c.target.node ?? -1)))
  return json.nodes.filter(
    (n, i) =>
      n.mesh === undefined &&
      n.camera === undefined &&
      n.children.length === 0 &&
      !('extensions' in n) &&
      !joints.has(i) &&
      !moved.has(i),
  ).length
}
