import {
  bad,
  faultAt,
  good,
  type Fault,
  type Outcome,
  type TextureFacts,
  type UsedFacts,
  formatWords,
  isPartlyDecoded,
  meshFormatWords,
  textureFormatWords,
  type FileKind,
} from '@stern-gate/contract'
import {
  FILE_KIND_BYTES,
  fileKind,
  isMeshKind,
  isTextureKind,
  readSurfaceFile,
  extensionOf,
  kindByExtension,
  measureHeaderOnly,
  measureMesh,
  measureTextureParts,
  measureUsed,
  cellsOfMask,
  masksOfPicture,
  openMeshFile,
  readTextureHeader,
  shrinkPicture,
  workingFileFault,
  type CountTopology,
  type MeasuredFile,
  type MeasuredMesh,
  type Pixels,
} from '@stern-gate/core'
import { nothingBeside, type FileMeasurement } from './fileMeasurement'
import { sha256 } from './hashing'
import { decodeImage, encodePng } from './imagePorts'
import { libraryReaders } from './libraryReaders'
import { meshThumbnail } from './meshThumbnail'

export const THUMBNAIL_SIZE = 96

export interface Surroundings {
  /** Bytes of the delivered file that a reference asks for; null when none came. */
  find: (asked: string) => Uint8Array | null
  progress: (doing: string) => void
  thumbnail: boolean
  /** Hash of the file, where it is known. */
  sha256?: string
  /** Counts topology elsewhere; without it, here. */
  topology?: CountTopology
}

/** Measures one file whatever it is. Trouble stands in `measured.fault`; nothing is thrown for bad input. */
export async function measureFile(
  path: string,
  bytes: Uint8Array,
  around: Surroundings,
): Promise<FileMeasurement> {
  const kind = fileKind(bytes.subarray(0, FILE_KIND_BYTES), path)
  const base: MeasuredFile = {
    path,
    sha256: around.sha256 ?? sha256(bytes),
    sizeBytes: bytes.length,
    kind,
    facts: null,
    embedded: {},
    fault: null,
  }
  const entrance = checkEntrance(path, bytes, kind)
  if (!entrance.ok) return refused(base, entrance.fault)
  if (isMeshKind(kind)) return measureMeshFileBytes(base, bytes, around)
  if (kind === 'surface') {
    const read = readSurfaceFile(new TextDecoder().decode(bytes))
    return read.ok ? { measured: base, ...nothingBeside } : refused(base, read.fault)
  }
  if (isTextureKind(kind)) return measureTextureBytes(base, bytes, around)
  return { measured: base, ...nothingBeside }
}

const refused = (base: MeasuredFile, fault: Fault): FileMeasurement => ({
  measured: { ...base, fault: faultAt(fault, { file: base.path }) },
  ...nothingBeside,
})

/** Empty, disguised and unknown files end here. */
function checkEntrance(path: string, bytes: Uint8Array, kind: FileKind): Outcome<true> {
  if (bytes.length === 0) return bad('file/empty', 'The file has no bytes.', 'Export or copy it again.')
  const stood = standsForAnother(bytes)
  if (stood) return stood
  const claimed = kindByExtension(path)
  const extension = /\.[^./\\]+$/.exec(path)?.[0] ?? ''
  const pictures = isTextureKind(kind) && isTextureKind(claimed)
  if (kind !== claimed && !pictures && kind !== 'unknown' && claimed !== 'unknown')
    return bad(
      'file/disguised',
      `The name says ${extension}, the bytes are ${formatWords(kind)}.`,
      `Rename it to ${extensionOf(kind)}, or export what the name says.`,
    )
  if (kind === 'unknown' && (isMeshKind(claimed) || isTextureKind(claimed)))
    return bad(
      'file/disguised',
      `The name says ${extension}, but the bytes do not begin like one.`,
      'Export it again; it may be damaged or something else.',
    )
  const working = workingFileFault(path)
  if (working && kind === 'unknown') return { ok: false, fault: working }
  if (kind === 'unknown' || kind === 'zip')
    return bad(
      'file/unsupported',
      `${extension || 'A file without extension'} is not read yet.`,
      `Deliver ${meshFormatWords}; ${textureFormatWords}.`,
    )
  return good(true)
}

/**
 * Small texts that came in place of a file: the pointer of a large-file store, or the page that answered a
 * download.
 */
function standsForAnother(bytes: Uint8Array): Outcome<true> | null {
  const text = new TextDecoder().decode(bytes.subarray(0, 200)).trimStart()
  if (/^version https:\/\/\S+\r?\n(?:[a-z0-9.-]+ .*\r?\n)*?oid sha256:[0-9a-f]{64}\s/.test(text))
    return bad(
      'file/pointer',
      'It is only the pointer that a large-file store keeps in place of the file.',
      'Fetch the file itself from the store, and deliver that.',
    )
  if (/^<!doctype html|^<html[\s>]/i.test(text))
    return bad(
      'file/web-page',
      'It is a web page under the name of another file: most likely the answer to a download that needed a log-in.',
      'Download the file again, and look at it before it is delivered.',
    )
  return null
}

async function measureMeshFileBytes(
  base: MeasuredFile,
  bytes: Uint8Array,
  around: Surroundings,
): Promise<FileMeasurement> {
  around.progress('reading the mesh')
  const { find } = around
  const opened = await openMeshFile(bytes, base.path, find, libraryReaders)
  if (!opened.ok) return refused(base, opened.fault)
  around.progress('measuring triangles and slots')
  const mesh = await measureMesh(
    opened.value.container,
    opened.value.references,
    bytes.length,
    { resource: find, hash: sha256, draco: libraryReaders.draco },
    { topology: around.topology },
  )
  if (!mesh.source && mesh.facts.notMeasured[0]?.code !== 'gltf/missing-buffer')
    return refused(base, mesh.facts.notMeasured[0]!)
  if (mesh.source && !drawsTriangles(mesh)) return refused(base, nothingDrawn)
  const { embedded, used } = await measureEmbedded(mesh, around.progress)
  const pictures = mesh.facts.file.images.flatMap((image) => {
    const bytes = mesh.source?.images[image.index]?.bytes
    return image.sha256 && bytes ? [{ sha256: image.sha256, bytes }] : []
  })
  if (around.thumbnail) around.progress('drawing the thumbnail')
  const thumbnail =
    mesh.source && around.thumbnail
      ? await meshThumbnail(mesh.source, mesh.facts, find, THUMBNAIL_SIZE)
      : null
  return {
    measured: { ...base, facts: mesh.facts, embedded, used },
    evidence: mesh.evidence.length > 0 ? mesh.evidence : null,
    thumbnail,
    pictures,
  }
}

/** Points and lines alone are no mesh, and a scene without either has nothing to be judged. */
const drawsTriangles = ({ facts }: MeasuredMesh): boolean =>
  facts.nodes?.some((n) => n.primitives.some((p) => p.triangles > 0)) ?? true

const nothingDrawn = bad(
  'mesh/nothing-drawn',
  'The scene draws no triangle.',
  'Export it with its meshes; lines, points, clips and empty nodes alone make no mesh.',
).fault

async function measureEmbedded(
  mesh: MeasuredMesh,
  progress: (doing: string) => void,
): Promise<{ embedded: MeasuredFile['embedded']; used: Record<string, UsedFacts | null> }> {
  const embedded: Record<string, TextureFacts | Fault> = {},
    used: Record<string, UsedFacts | null> = {}
  for (const image of mesh.source?.images ?? []) {
    const hash = mesh.facts.file.images[image.index]?.sha256
    if (!image.bytes || !hash || embedded[hash]) continue
    progress(`measuring ${image.name}`)
    const masks = masksOfPicture(mesh.facts, hash).map((mask) => ({ key: mask.key, bits: cellsOfMask(mask) }))
    const facts = await textureFacts(image.bytes, '', masks)
    embedded[hash] = facts.ok ? facts.value.facts : facts.fault
    if (facts.ok) Object.assign(used, facts.value.used)
  }
  return { embedded, used }
}

async function measureTextureBytes(
  base: MeasuredFile,
  bytes: Uint8Array,
  around: Surroundings,
): Promise<FileMeasurement> {
  around.progress('decoding and measuring')
  const facts = await textureFacts(bytes, base.path)
  if (!facts.ok) return refused(base, facts.fault)
  const { pixels } = facts.value
  const thumbnail = pixels && around.thumbnail ? await encodePng(shrinkPicture(pixels, THUMBNAIL_SIZE)) : null
  return { measured: { ...base, facts: facts.value.facts }, ...nothingBeside, thumbnail }
}

/** A picture that does not decode is refused whole: a header alone is no basis for a verdict. */
async function textureFacts(
  bytes: Uint8Array,
  path = '',
  masks: Parameters<typeof measureTextureParts>[2] = [],
): Promise<Outcome<ReturnType<typeof measureTextureParts> & { pixels: Pixels | null }>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  if (!header.value.decodes) return good({ facts: measureHeaderOnly(header.value), used: {}, pixels: null })
  const pixels = await decodeImage(bytes, header.value)
  if (!pixels.ok)
    return isPartlyDecoded(header.value.format) && pixels.fault.code !== 'image/truncated'
      ? good({ ...measureTextureParts(header.value, pixels, []), pixels: null })
      : pixels
  return good({ ...measureTextureParts(header.value, pixels, masks), pixels: pixels.value })
}

/**
 * The figures of a texture over the texels that islands use, by their packed cells; null where hardly any are used, and
 * where its texels are not read. Faults: those of its header and of decoding.
 */
export async function usedFactsOf(
  bytes: Uint8Array,
  path: string,
  cells: string[],
): Promise<Outcome<UsedFacts | null>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  if (!header.value.decodes) return good(null)
  const pixels = await decodeImage(bytes, header.value)
  return pixels.ok ? good(measureUsed(header.value, pixels.value, cellsOfMask({ cells }))) : pixels
}

/** A texture as PNG. Faults: those of its header and of decoding. */
export async function pictureOf(bytes: Uint8Array, path: string): Promise<Outcome<Uint8Array>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  if (!header.value.decodes)
    return bad(
      'image/format-not-read',
      `The texels of ${formatWords(header.value.format)} files are not decoded yet.`,
      'Deliver the picture as PNG to see it here.',
    )
  const pixels = await decodeImage(bytes, header.value)
  return pixels.ok ? good(await encodePng(pixels.value)) : pixels
}
