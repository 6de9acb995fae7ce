import type { Place } from '@stern-gate/contract'
import type { Subject } from '../subject/subject'

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

/**
 * 53-bit hash of a text (two rounds of multiply and xor-shift, Bryc 2018, public domain); not for security.
 */
function hash53(text: string): string {
  let a = 0xdeadbeef,
    b = 0x41c6ce57
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    a = Math.imul(a ^ c, 2654435761)
    b = Math.imul(b ^ c, 1597334677)
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909)
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909)
  return base36(4294967296 * (2097151 & b) + (a >>> 0))
}

/**
 * Eleven digits of a whole number below 2⁵³; toString(36) takes a way for fractions that is ten times as
 * long.
 */
function base36(value: number): string {
  let digits = '',
    left = value
  for (let i = 0; i < 11; i++) {
    const next = Math.floor(left / 36)
    digits = DIGITS[left - next * 36]! + digits
    left = next
  }
  return digits
}

const DIGITS = '0123456789abcdefghijklmnopqrstuvwxyz'
