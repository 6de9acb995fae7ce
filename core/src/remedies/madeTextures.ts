import type { Texture } from '@gltf-transform/core'
import { EXTTextureAVIF, EXTTextureWebP, KHRTextureBasisu } from '@gltf-transform/extensions'
import { good, type Outcome } from '@stern-gate/contract'
import type { Pixels } from '../image/pixels'
import { fileStem } from '../read/deliveryPath'
import { readTextureHeader } from '../read/readTextureHeader'
import { withPngColourSpace } from '../write/pngColourSpace'
import type { RemedyPorts } from './defineRemedy'
import { asPng } from './textureSteps'
import type { Work, WorkTexture } from './work'

/** A name of a PNG that no texture of the asset has: with _2, _3 … behind where it has to be. */
export function freeName(work: Work, stem: string): string {
  for (let n = 1; ; n++) {
    const name = `${stem}${n > 1 ? `_${n}` : ''}.png`
    if (!work.textures.some((t) => t.name.toLowerCase() === name.toLowerCase())) return name
  }
}

/** The pixels of a texture. Faults: those of reading its file. */
export async function decodedTexture(texture: WorkTexture, ports: RemedyPorts): Promise<Outcome<Pixels>> {
  const header = readTextureHeader(texture.bytes, texture.name)
  return header.ok ? ports.decode(texture.bytes, header.value) : header
}

/**
 * Adds a texture that was made of others, beside one of them, or inside the mesh where that stands. Where the
 * asset has one of that name with the same bytes, that one is given.
 */
export async function addMadeTexture(
  work: Work,
  {
    stem,
    pixels,
    space,
    beside,
  }: { stem: string; pixels: Pixels; space: 'srgb' | 'linear'; beside: WorkTexture | null },
  ports: RemedyPorts,
): Promise<Outcome<WorkTexture>> {
  const png = withPngColourSpace(await ports.encodePng(pixels), space)
  if (!png.ok) return png
  const same = work.textures.find((t) => t.name.startsWith(stem) && sameBytes(t.bytes, png.value))
  if (same) return good(same)
  const name = freeName(work, stem)
  const texture: WorkTexture = {
    name,
    aliases: [],
    path: beside?.path ? beside.path.replace(/[^/]*$/, name) : null,
    bytes: png.value,
    pictures: [work.document!.createTexture(fileStem(name)).setMimeType('image/png')],
  }
  work.textures.push(texture)
  return good(texture)
}

const sameBytes = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, i) => byte === b[i])

/** Formats that a glTF holds by an extension of its own; PNG and JPEG by itself. */
const BY_EXTENSION = { webp: EXTTextureWebP, avif: EXTTextureAVIF, ktx2: KHRTextureBasisu } as const

/**
 * The picture of a texture in the mesh; made where nothing refers to it yet. What a glTF cannot hold becomes a PNG.
 * Faults: those of reading it, and of what is not written anew.
 */
export async function pictureOf(
  work: Work,
  texture: WorkTexture,
  ports: RemedyPorts,
): Promise<Outcome<Texture>> {
  const known = texture.pictures[0]
  if (known) return good(known)
  const header = readTextureHeader(texture.bytes, texture.name)
  if (!header.ok) return header
  const { format } = header.value,
    document = work.document!
  const extension = format in BY_EXTENSION ? BY_EXTENSION[format as keyof typeof BY_EXTENSION] : null
  if (extension) document.createExtension(extension as typeof EXTTextureWebP).setRequired(true)
  else if (format !== 'jpeg') {
    const png = await asPng(texture, header.value, ports)
    if (!png.ok) return png
  }
  const type = extension || format === 'jpeg' ? format : 'png'
  const picture = document.createTexture(fileStem(texture.name)).setMimeType(`image/${type}`)
  texture.pictures.push(picture)
  return good(picture)
}

/** Whether a slot uses a picture of the texture. */
export const isUsed = (texture: WorkTexture): boolean =>
  texture.pictures.some((p) => p.listParents().some((parent) => parent.propertyType !== 'Root'))
