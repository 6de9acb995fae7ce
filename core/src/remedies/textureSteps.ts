import { bad, faultAt, good, type Outcome } from '@stern-gate/contract'
import type { Pixels } from '../image/pixels'
import { readTextureHeader } from '../read/readTextureHeader'
import { withPngColourSpace } from '../write/pngColourSpace'
import type { RemedyPorts } from './defineRemedy'
import { findTexture, type Work, type WorkTexture } from './work'

/** The texture that a step names, or why not. */
export function textureOf(work: Work, name: string): Outcome<WorkTexture> {
  const texture = findTexture(work, name)
  return texture ? good(texture) : bad('remedy/not-applicable', `The asset has no texture called ${name}.`, 'Choose one of its textures.', { part: name })
}

/** Decodes, changes and writes a texture as PNG, keeping what its file says about colour. The name follows when the extension changes. */
export async function rewritePixels(texture: WorkTexture, ports: RemedyPorts, change: (pixels: Pixels) => Pixels): Promise<Outcome<true>> {
  const header = readTextureHeader(texture.bytes)
  if (!header.ok) return atTexture(header, texture)
  const pixels = await ports.decode(texture.bytes, header.value)
  if (!pixels.ok) return atTexture(pixels, texture)
  const png = await ports.encodePng(change(pixels.value))
  const space = header.value.colourSpace
  const tagged = space === 'srgb' || space === 'linear' ? withPngColourSpace(png, space) : good(png)
  if (!tagged.ok) return tagged
  replaceBytes(texture, tagged.value)
  return good(true)
}

const atTexture = (failed: { ok: false; fault: Parameters<typeof faultAt>[0] }, texture: WorkTexture) => ({ ok: false as const, fault: faultAt(failed.fault, { file: texture.name }) })

/** Puts PNG bytes in place of what was there. */
export function replaceBytes(texture: WorkTexture, png: Uint8Array): void {
  texture.bytes = png
  const name = texture.name.replace(/\.(jpe?g|webp)(#\d+)?$/i, '.png$2')
  if (name !== texture.name) {
    texture.aliases.push(texture.name)
    texture.name = name
    if (texture.path !== null) texture.path = texture.path.replace(/[^/]*$/, name)
  }
  for (const picture of texture.pictures) picture.setMimeType('image/png')
}
