import type { Place } from '@stern-gate/contract'
import type { Subject } from '../subject/subject'
import { hash53 } from '../numbers/hash53'

/**
 * Identity of a finding within its asset: rule, message, place, and the part of the place that it speaks of. It
 * survives a renaming of the asset, a re-export with its nodes in another order, and another measured value:
 * parts that carry the asset's name are known by what comes behind it, and triangles by their slot.
 */
export function fingerprint(
  { rule, message, place, part }: { rule: string; message: string; place: Place; part?: string | undefined },
  subject: Pick<Subject, 'name' | 'path' | 'mesh'>,
): string {
  return hash53(`${rule}|${message}|${placeKey(place, subject)}|${part ? unnamed(part, subject.name) : ''}`)
}

function placeKey(place: Place, subject: Pick<Subject, 'name' | 'path' | 'mesh'>): string {
  const { name } = subject
  switch (place.kind) {
    case 'asset':
      return 'asset'
    case 'file':
      return place.file === subject.path ? 'main file' : `file ${unnamedPath(place.file, name)}`
    case 'node':
      return `node ${unnamedPath(place.node, name)}`
    case 'slot':
      return `slot ${unnamed(place.slot, name)} ${place.input ?? ''}`
    case 'texture':
      return `texture ${unnamed(place.texture, name)}`
    case 'triangles':
      return `node ${unnamedPath(place.node, name)} ${slotOf(place, subject)}`
    case 'channel':
      return `node ${unnamedPath(place.node, name)} UV${place.channel}`
    case 'name':
      return `name of ${place.what} ${place.what === 'asset' ? '' : unnamedPath(place.name, name)}`
  }
}

/** Slot of a primitive, with its number where the node has several of that slot. */
function slotOf(
  { node: path, primitive }: Extract<Place, { kind: 'triangles' }>,
  { mesh, name }: Pick<Subject, 'name' | 'mesh'>,
): string {
  const primitives = mesh?.nodes?.find((n) => n.path === path)?.primitives,
    slot = primitives?.[primitive]?.slot
  if (!primitives || slot === undefined) return `primitive ${primitive}`
  const before = primitives.slice(0, primitive).filter((p) => p.slot === slot).length
  return `slot ${unnamed(slot ?? '', name)}${before > 0 ? ` ${before + 1}` : ''}`
}

/** A name without that of the asset at its beginning. */
const unnamed = (text: string, asset: string): string =>
  asset !== '' && text.startsWith(asset) ? `*${text.slice(asset.length)}` : text

const unnamedPath = (path: string, asset: string): string =>
  path.includes('/')
    ? path
        .split('/')
        .map((part) => unnamed(part, asset))
        .join('/')
    : unnamed(path, asset)
