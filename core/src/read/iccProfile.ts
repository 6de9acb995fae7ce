import type { ColourSpace } from '@stern-gate/contract'
import { srgbToLinear } from '../image/transferCurves'

export interface ColourTag {
  colourSpace: ColourSpace
  colourEvidence: string[]
}

/** Colourants of sRGB as a profile holds them: adapted to D50, as X, Y and Z of red, green and blue. */
const SRGB_COLOURANTS = [
  [0.4361, 0.2225, 0.0139],
  [0.3851, 0.7169, 0.0971],
  [0.1431, 0.0606, 0.7141],
] as const
/** Profiles of sRGB differ by rounding and by how they adapt; the nearest other space differs by 0.05 and more. */
const SAME_COLOURANT = 0.01
/** Of 1, in linear light: a gamma of 2.2 differs from the sRGB curve by 0.007 at most, 1.8 by 0.07. */
const SAME_CURVE = 0.015
const ASKED_AT = [0.1, 0.25, 0.5, 0.75, 0.9]

/**
 * What an ICC profile says of a picture's colours, by its colourants and tone curves and not by its name:
 * sRGB, linear (with the colourants of sRGB, or of grey), or another. A profile that works by tables, or that
 * is damaged, counts as another; the evidence says so. Layout: ICC.1:2010, sections 7.2, 7.3, 10.5, 10.15.
 */
export function iccProfile(bytes: Uint8Array): ColourTag {
  const tag = (space: ColourSpace, what: string): ColourTag => ({
    colourSpace: space,
    colourEvidence: [`ICC profile, ${what}`],
  })
  if (bytes.length < 132) return tag('other', 'cut short')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tags = tagTable(view)
  const grey = four(view, 16) === 'GRAY'
  if (!grey && four(view, 16) !== 'RGB ') return tag('other', `for ${four(view, 16).trim()} pictures`)
  const curves = (grey ? ['kTRC'] : ['rTRC', 'gTRC', 'bTRC']).map((name) => curveOf(view, tags.get(name)))
  if (curves.some((c) => c === null)) return tag('other', 'by tables')
  const colourants = grey ? [] : ['rXYZ', 'gXYZ', 'bXYZ'].map((name) => xyzOf(view, tags.get(name)))
  const isOwnColours = colourants.every((c, k) =>
    c?.every((v, i) => Math.abs(v - SRGB_COLOURANTS[k]![i]!) <= SAME_COLOURANT),
  )
  const follow = (want: (v: number) => number): boolean =>
    curves.every((curve) => ASKED_AT.every((v) => Math.abs(curve!(v) - want(v)) <= SAME_CURVE))
  const isSrgb = follow(srgbToLinear),
    isLinear = follow((v) => v)
  const half = curves[0]!(0.5),
    said = isSrgb
      ? 'curve of sRGB'
      : isLinear
        ? 'linear'
        : `gamma ${(Math.log(half) / Math.log(0.5)).toFixed(2)}`
  if (!isOwnColours) return tag('other', `wider or other primaries than sRGB, ${said}`)
  return tag(
    isSrgb ? 'srgb' : isLinear ? 'linear' : 'other',
    grey ? `grey, ${said}` : `primaries of sRGB, ${said}`,
  )
}

const four = (view: DataView, at: number): string =>
  String.fromCharCode(...[0, 1, 2, 3].map((k) => view.getUint8(at + k)))

interface TagPlace {
  offset: number
  size: number
}

function tagTable(view: DataView): Map<string, TagPlace> {
  const count = Math.min(100, view.getUint32(128)),
    found = new Map<string, TagPlace>()
  for (let k = 0, at = 132; k < count && at + 12 <= view.byteLength; k++, at += 12) {
    const place = { offset: view.getUint32(at + 4), size: view.getUint32(at + 8) }
    if (place.offset + place.size <= view.byteLength && place.size >= 8) found.set(four(view, at), place)
  }
  return found
}

/** Signed numbers with 16 bits behind the point. */
const fixed = (view: DataView, at: number): number => view.getInt32(at) / 65536

function xyzOf(view: DataView, place: TagPlace | undefined): number[] | null {
  if (!place || place.size < 20 || four(view, place.offset) !== 'XYZ ') return null
  return [8, 12, 16].map((k) => fixed(view, place.offset + k))
}

/** A tone curve: stored value, 0 to 1, to linear light; null for one that is not understood. */
function curveOf(view: DataView, place: TagPlace | undefined): ((v: number) => number) | null {
  if (!place || place.size < 12) return null
  const { offset, size } = place,
    kind = four(view, offset)
  if (kind === 'curv') {
    const n = view.getUint32(offset + 8)
    if (n === 0) return (v) => v
    if (12 + n * 2 > size) return null
    if (n === 1) return (v) => v ** (view.getUint16(offset + 12) / 256)
    return (v) => {
      const at = v * (n - 1),
        k = Math.min(n - 2, Math.floor(at)),
        value = (i: number) => view.getUint16(offset + 12 + i * 2) / 65535
      return value(k) + (value(k + 1) - value(k)) * (at - k)
    }
  }
  return kind === 'para' ? parametric(view, place) : null
}

/** Functions 0 to 4 of the parametric curve type. */
function parametric(view: DataView, { offset, size }: TagPlace): ((v: number) => number) | null {
  const kind = view.getUint16(offset + 8),
    wanted = [1, 3, 4, 5, 7][kind]
  if (wanted === undefined || 12 + wanted * 4 > size) return null
  const [g = 1, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = Array.from({ length: wanted }, (_, k) =>
    fixed(view, offset + 12 + k * 4),
  )
  if (kind === 0) return (v) => v ** g
  if (kind === 1) return (v) => (v >= -b / a ? (a * v + b) ** g : 0)
  if (kind === 2) return (v) => (v >= -b / a ? (a * v + b) ** g + c : c)
  if (kind === 3) return (v) => (v >= d ? (a * v + b) ** g : c * v)
  return (v) => (v >= d ? (a * v + b) ** g + e : c * v + f)
}
