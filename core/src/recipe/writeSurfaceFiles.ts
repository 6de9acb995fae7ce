import type { Document } from '@gltf-transform/core'
import { SURFACE_ENDING } from '@stern-gate/contract'
import { measureSlots } from '../measure/measureSlots'
import type { Work } from '../remedies/work'
import { surfaceFileOf } from '../surfaces/surfaceFile'
import { relativePath } from '../write/relativePath'
import type { OutputFile } from './outputFile'

/** What may not stand in a name of a file, on any system. */
const REFUSED = /[\u0000-\u001f<>:"/\\|?*]+/g

/** The surface of each slot as a file beside the mesh at `path`. */
export function writeSurfaceFiles(work: Work, document: Document, path: string, name: string): OutputFile[] {
  const pictures = document.getRoot().listTextures()
  const taken = new Set<string>()
  const fileOf = (image: number): string | null => {
    const missing = work.missing.find((m) => m.picture === pictures[image])
    if (missing) return relativePath(path, missing.asked)
    const texture = work.textures.find((t) => t.pictures.includes(pictures[image]!))
    return texture ? (texture.path === null ? texture.name : relativePath(path, texture.path)) : null
  }
  return measureSlots(document).map((slot) => {
    const stem = name.replaceAll('{asset}', work.name).replaceAll('{slot}', slot.name).replace(REFUSED, '-')
    let own = stem
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${stem}_${n}`
    taken.add(own.toLowerCase())
    return {
      path: path.replace(/[^/]*$/, `${own}${SURFACE_ENDING}`),
      part: 'surface',
      bytes: new TextEncoder().encode(`${JSON.stringify(surfaceFileOf(slot, fileOf), null, 2)}\n`),
    }
  })
}
