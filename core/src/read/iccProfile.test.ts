import { zlibSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { pixelsOf, pngOf } from '../fixtures/pngFixture'
import { pngChunk } from '../write/pngColourSpace'
import { iccProfile } from './iccProfile'
import { readPngHeader } from './readPngHeader'

type Curve = { gamma: number } | { table: number[] } | { parameters: number[]; kind: number } | 'same'

const SRGB = [
  [0.43607, 0.22249, 0.01392],
  [0.38515, 0.71687, 0.09708],
  [0.14307, 0.06061, 0.7141],
]
/** A profile of primaries and one curve for all three, as small as one can be. */
function profileOf(colourants: number[][], curve: Curve, space = 'RGB '): Uint8Array {
  const tags: [string, number[]][] = []
  const text = (t: string) => [...t].map((c) => c.charCodeAt(0))
  const u32 = (v: number) => [v >>> 24, (v >>> 16) & 255, (v >>> 8) & 255, v & 255]
  const u16 = (v: number) => [v >> 8, v & 255]
  const fixed = (v: number) => u32(Math.round(v * 65536) >>> 0)
  colourants.forEach((c, k) =>
    tags.push([`${'rgb'[k]}XYZ`, [...text('XYZ '), 0, 0, 0, 0, ...c.flatMap(fixed)]]),
  )
  const body =
    curve === 'same'
      ? [...text('curv'), 0, 0, 0, 0, ...u32(0)]
      : 'gamma' in curve
        ? [...text('curv'), 0, 0, 0, 0, ...u32(1), ...u16(Math.round(curve.gamma * 256)), 0, 0]
        : 'table' in curve
          ? [
              ...text('curv'),
              0,
              0,
              0,
              0,
              ...u32(curve.table.length),
              ...curve.table.flatMap((v) => u16(Math.round(v * 65535))),
            ]
          : [...text('para'), 0, 0, 0, 0, ...u16(curve.kind), 0, 0, ...curve.parameters.flatMap(fixed)]
  for (const name of space === 'GRAY' ? ['kTRC'] : ['rTRC', 'gTRC', 'bTRC']) tags.push([name, body])
  const head = new Uint8Array(128)
  head.set(text(space), 16)
  const table: number[] = u32(tags.length),
    data: number[] = []
  for (const [name, bytes] of tags) {
    table.push(...text(name), ...u32(132 + tags.length * 12 + data.length), ...u32(bytes.length))
    data.push(...bytes)
  }
  return Uint8Array.from([...head, ...table, ...data])
}
const srgbCurve: Curve = { kind: 3, parameters: [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045] }

describe('an ICC profile is what its numbers say', () => {
  it.each([
    ['sRGB by its function', profileOf(SRGB, srgbCurve), 'srgb', 'primaries of sRGB, curve of sRGB'],
    [
      'sRGB by a table',
      profileOf(SRGB, {
        table: Array.from({ length: 256 }, (_, v) =>
          v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4,
        ),
      }),
      'srgb',
      'primaries of sRGB, curve of sRGB',
    ],
    [
      'gamma 2.2, which nobody can tell from it',
      profileOf(SRGB, { gamma: 2.2 }),
      'srgb',
      'primaries of sRGB, curve of sRGB',
    ],
    ['gamma 1.8', profileOf(SRGB, { gamma: 1.8 }), 'other', 'primaries of sRGB, gamma 1.80'],
    ['linear', profileOf(SRGB, 'same'), 'linear', 'primaries of sRGB, linear'],
    [
      'wider primaries with the same curve',
      profileOf(
        [
          [0.5151, 0.2412, -0.0011],
          [0.292, 0.6922, 0.0419],
          [0.1571, 0.0666, 0.7841],
        ],
        srgbCurve,
      ),
      'other',
      'wider or other primaries than sRGB, curve of sRGB',
    ],
    ['grey with the curve of sRGB', profileOf([], { gamma: 2.2 }, 'GRAY'), 'srgb', 'grey, curve of sRGB'],
    ['inks', profileOf(SRGB, srgbCurve, 'CMYK'), 'other', 'for CMYK pictures'],
    ['one that is cut short', profileOf(SRGB, srgbCurve).subarray(0, 140), 'other', 'by tables'],
    ['nothing', new Uint8Array(0), 'other', 'cut short'],
  ])('%s', (_, bytes, space, said) => {
    expect(iccProfile(bytes)).toEqual({ colourSpace: space, colourEvidence: [`ICC profile, ${said}`] })
  })
  it('inside a PNG, whatever its name is', () => {
    const png = pngOf(pixelsOf(2, 2, 3, () => [1, 2, 3]))
    const chunk = (name: string, profile: Uint8Array) =>
      pngChunk(
        'iCCP',
        Uint8Array.from([...[...name].map((c) => c.charCodeAt(0)), 0, 0, ...zlibSync(profile)]),
      )
    const withProfile = (name: string, profile: Uint8Array) => {
      const own = chunk(name, profile)
      return readPngHeader(Uint8Array.from([...png.subarray(0, 33), ...own, ...png.subarray(33)]))
    }
    expect(withProfile('ICC Profile', profileOf(SRGB, srgbCurve))).toMatchObject({
      ok: true,
      value: { colourSpace: 'srgb' },
    })
    expect(withProfile('sRGB IEC61966-2.1', profileOf(SRGB, { gamma: 1.8 }))).toMatchObject({
      ok: true,
      value: { colourSpace: 'other' },
    })
  })
})
