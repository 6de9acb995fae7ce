import { bad, faultAt, good, type Outcome, type TextureHeader, formatWords } from '@stern-gate/contract'
import type { Pixels } from '../image/pixels'
import { canRewrite } from '../read/canRewrite'
import { readTextureHeader } from '../read/readTextureHeader'
import type { Meaning } from '../image/lightValues'
import { withPngColourSpace } from '../write/pngColourSpace'
import { withPngRole } from '../write/pngRole'
import type { RemedyPorts } from './defineRemedy'
import { findTexture, type Work, type WorkTexture } from './work'

/** The texture that a step names, or why not. */
export function textureOf(work: Work, name: string): Outcome<WorkTexture> {
  const texture = findTexture(work, name)
  return texture
    ? good(texture)
    : bad(
        'remedy/not-applicable',
        `The asset has no texture called ${name}.`,
        'Choose one of its textures.',
        { part: name },
      )
}

/** The texture that a step names with what its header says. */
export function openTexture(
  work: Work,
  name: string,
): Outcome<{ texture: WorkTexture; header: TextureHeader }> {
  const texture = textureOf(work, name)
  if (!texture.ok) return texture
  const header = readTextureHeader(texture.value.bytes, texture.value.name)
  return header.ok ? good({ texture: texture.value, header: header.value }) : atTexture(header, texture.value)
}

/** What a file stores its texels as, in words: a block format, or a format with its depth. */
const storedAs = ({ blockFormat, format, depth }: TextureHeader): string =>
  blockFormat ?? `${formatWords(format)} of ${depth} bit`

/**
 * Decodes, changes and writes a texture as PNG, keeping what its file says about colour. The name follows
 * when the extension changes. Null from `change` leaves the file as it is, byte for byte, and gives false.
 */
export async function rewritePixels(
  texture: WorkTexture,
  ports: RemedyPorts,
  change: (pixels: Pixels) => Pixels | null,
): Promise<Outcome<boolean>> {
  const header = readTextureHeader(texture.bytes, texture.name)
  if (!header.ok) return atTexture(header, texture)
  if (!canRewrite(header.value))
    return bad(
      'image/format-not-read',
      `What is stored in ${storedAs(header.value)} is not written anew.`,
      'Deliver the picture that it was made from, as PNG.',
      { file: texture.name },
    )
  const pixels = await ports.decode(texture.bytes, header.value)
  if (!pixels.ok) return atTexture(pixels, texture)
  const changed = change(pixels.value)
  if (changed === null) return good(false)
  const png = await ports.encodePng(changed)
  const { colourSpace: space, statedRole } = header.value
  const tagged = space === 'srgb' || space === 'linear' ? withPngColourSpace(png, space) : good(png)
  const marked = tagged.ok && statedRole !== null ? withPngRole(tagged.value, statedRole) : tagged
  if (!marked.ok) return marked
  replaceBytes(texture, marked.value)
  return good(true)
}

const atTexture = (failed: { ok: false; fault: Parameters<typeof faultAt>[0] }, texture: WorkTexture) => ({
  ok: false as const,
  fault: faultAt(failed.fault, { file: texture.name }),
})

/** Makes a PNG of a texture that is none, so that what it says can be written into it. */
export const asPng = async (
  texture: WorkTexture,
  header: TextureHeader,
  ports: RemedyPorts,
): Promise<Outcome<boolean>> =>
  header.format === 'png' ? good(false) : rewritePixels(texture, ports, (pixels) => pixels)

/** Writes a texture's role and colour space into its PNG. Faults: those of a damaged PNG. */
export function stateRole(texture: WorkTexture, role: string, space: 'srgb' | 'linear'): Outcome<true> {
  const tagged = withPngColourSpace(texture.bytes, space)
  const marked = tagged.ok ? withPngRole(tagged.value, role) : tagged
  if (!marked.ok) return marked
  replaceBytes(texture, marked.value)
  return good(true)
}

/** Puts PNG bytes in place of what was there. */
export function replaceBytes(texture: WorkTexture, png: Uint8Array): void {
  texture.bytes = png
  const name = texture.name.replace(/\.(jpe?g|webp|tga|tiff?|avif|dds|ktx2)(#\d+)?$/i, '.png$2')
  if (name !== texture.name) {
    texture.aliases.push(texture.name)
    texture.name = name
    if (texture.path !== null) texture.path = texture.path.replace(/[^/]*$/, name)
  }
  for (const picture of texture.pictures) picture.setMimeType('image/png')
}

/**
 * What the values of a texture stand for: by the slots that it feeds, by what its file says, by the last part
 * of its name.
 */
export function meaningOf(work: Work, texture: WorkTexture, header: TextureHeader): Meaning {
  const slots = work.document?.getRoot().listMaterials() ?? []
  const feeds = (get: (slot: (typeof slots)[number]) => unknown): boolean =>
    slots.some((s) => texture.pictures.includes(get(s) as never))
  if (feeds((s) => s.getNormalTexture()) || header.statedRole === 'normal') return 'vectors'
  if (
    feeds((s) => s.getBaseColorTexture()) ||
    feeds((s) => s.getEmissiveTexture()) ||
    header.colourSpace === 'srgb'
  )
    return 'srgb'
  return /[_\-. ](normal|normals|nrm|nml|nor)\b/i.test(texture.name.replace(/\.[^.]+$/, ''))
    ? 'vectors'
    : 'linear'
}
