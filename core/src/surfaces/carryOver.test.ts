import type { SlotFacts, SlotValues } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { carryOver } from './carryOver'

const plain: SlotValues = {
  normalStrength: 1,
  occlusionStrength: 1,
  emissiveStrength: 1,
  transmission: 0,
  ior: 1.5,
  thickness: 0,
  attenuationColour: [1, 1, 1],
  attenuationDistance: null,
  specular: 1,
  specularColour: [1, 1, 1],
  coat: 0,
  coatRoughness: 0,
  scatter: 0,
  scatterColour: [1, 1, 1],
}
const slot = (more: Partial<SlotFacts> = {}, values: Partial<SlotValues> = {}): SlotFacts => ({
  name: 'pane',
  index: 0,
  baseColour: [1, 1, 1, 1],
  metallic: 0,
  roughness: 1,
  emissive: [0, 0, 0],
  alphaMode: 'opaque',
  alphaCutoff: 0.5,
  doubleSided: false,
  extensions: [],
  surface: null,
  sameAs: null,
  textures: [],
  tints: [],
  alphaMeaning: null,
  layer: null,
  detail: null,
  heightDepth: null,
  adds: false,
  values: { ...plain, ...values },
  ...more,
})
const texture = (n: number, channel = 0): SlotFacts['textures'][number] => ({
  input: 'other',
  field: `map${n}`,
  image: n,
  channel,
  placement: null,
})
const lines = (s: SlotFacts, target: string) =>
  carryOver([s], defaultRulebook.targets[target]!).map((l) => [l.setting, l.fate])

describe('what becomes of a surface at a target', () => {
  it('is nothing to speak of where only what every target draws is set', () => {
    expect(lines(slot(), 'handheld')).toEqual([])
    expect(lines(slot({ metallic: 1, emissive: [1, 1, 1] }), 'handheld')).toEqual([])
  })
  it('names what glTF has no place for, with what is drawn in its place', () => {
    const detail = { uv: 0, tiling: 6, colour: 1, normal: 1 }
    const leaf = slot({ detail, adds: true, alphaMode: 'blend' }, { scatter: 0.4 })
    expect(lines(leaf, 'handheld')).toEqual([
      ['detail map', 'lost'],
      ['scattering', 'lost'],
      ['additive blending', 'changed'],
      ['blending', 'kept'],
    ])
    const [first, second] = carryOver([leaf], defaultRulebook.targets['desk']!)
    expect([first!.value, second!.value]).toEqual(['6 ×', '0.4'])
    // What a detail map and a layer bring lies as they say: no placement of the slot is lost with it
    const placed = { tiling: [6, 6] as [number, number], offset: [0, 0] as [number, number], turn: 0 }
    const own = [{ ...texture(1), field: 'detail', placement: placed }]
    expect(lines(slot({ detail, textures: own }), 'handheld')).toEqual([['detail map', 'lost']])
    const deep = slot({ heightDepth: 0.004, textures: [{ ...texture(1), field: 'height' }] })
    expect(carryOver([deep], defaultRulebook.targets['desk']!)[0]).toMatchObject({
      setting: 'height',
      value: '4 mm deep',
    })
  })
  it('counts no input of what stays behind all the same', () => {
    const detail = { uv: 3, tiling: 6, colour: 1, normal: 1 }
    const own = Array.from({ length: 6 }, (_, n) => texture(n))
    const more = [
      { ...texture(7, 3), field: 'detail' },
      { ...texture(8), field: 'tint' },
    ]
    const { inputsPerSlot } = defaultRulebook.targets['browser']!
    const over = lines(slot({ detail, textures: [...own.slice(0, inputsPerSlot), ...more] }), 'browser')
    expect(over).toEqual([
      ['mask', 'lost'],
      ['detail map', 'lost'],
    ])
  })
  it('is kept where the target takes it, and lost with words where not', () => {
    const glass = slot(
      { extensions: ['KHR_materials_sheen'] },
      { transmission: 1, coat: 0.5, thickness: 0.01 },
    )
    expect(lines(glass, 'desk')).toEqual([
      ['transmission', 'kept'],
      ['thickness', 'kept'],
      ['clear coat', 'kept'],
      ['sheen', 'kept'],
    ])
    const lost = carryOver([glass], defaultRulebook.targets['handheld']!)
    expect(lost.map((l) => [l.setting, l.value, l.fate])).toEqual([
      ['transmission', '1', 'lost'],
      ['thickness', '1 cm', 'lost'],
      ['clear coat', '0.5', 'lost'],
      ['sheen', 'set', 'lost'],
    ])
    expect(lost[0]!.how).toBe('it is drawn opaque: nothing is seen through it')
  })
  it('tells a mask by the tints that it brings, or as a map', () => {
    const colour: [number, number, number] = [1, 0, 0]
    const tinted = slot({
      tints: [
        { channel: 'R', colour, strength: 1 },
        { channel: 'B', colour, strength: 1 },
      ],
    })
    const fed = slot({ textures: [{ ...texture(0), field: 'tint' }] })
    expect(carryOver([tinted, fed], defaultRulebook.targets['browser']!)).toMatchObject([
      { setting: 'mask', value: 'tints RB', fate: 'lost' },
      { setting: 'mask', value: 'a map', fate: 'lost' },
    ])
    expect(lines(tinted, 'handheld')).toEqual([['mask', 'kept']])
  })
  it('loses a second layer where only the open formats are drawn, and says what lays it', () => {
    const layered = (by: NonNullable<SlotFacts['layer']>['by']): SlotFacts =>
      slot({
        layer: {
          ...{ by, colour: [1, 0, 0], mode: 'mix', roughness: null, metallic: null },
          ...{ inverted: false, strength: 1, uv: 0, tiling: 1, normal: 1 },
          ...{ roughnessMost: null, roughnessChannel: 'G' },
        },
      })
    const fates = (target: string): unknown[] =>
      carryOver(
        [
          layered({ kind: 'ramp', axis: 'v', from: 0, to: 1 }),
          layered({ kind: 'mask', channel: 'G' }),
          layered({ kind: 'vertex', set: 1, channel: 'R' }),
        ],
        defaultRulebook.targets[target]!,
      ).map((l) => [l.setting, l.value, l.fate, l.how])
    expect(fates('desk')).toEqual([
      ['second layer', 'by a ramp', 'kept', ''],
      ['second layer', 'by G of the mask', 'kept', ''],
      ['second layer', 'painted', 'kept', ''],
    ])
    expect(fates('browser')[0]).toEqual([
      'second layer',
      'by a ramp',
      'lost',
      'the surface below is drawn alone',
    ])
  })
  it('becomes a cutout where a target cannot blend', () => {
    const target = { ...defaultRulebook.targets['desk']!, takes: [] }
    expect(carryOver([slot({ alphaMode: 'blend' })], target)[0]).toMatchObject({
      setting: 'blending',
      fate: 'changed',
    })
  })
  it('loses inputs and UV channels beyond the limits, and none at them', () => {
    const five = [0, 1, 2, 3, 4].map((n) => texture(n))
    expect(lines(slot({ textures: five }), 'handheld')).toEqual([])
    expect(lines(slot({ textures: [...five, texture(5)] }), 'handheld')).toEqual([['inputs', 'lost']])
    const [seven] = carryOver(
      [slot({ textures: [...five, texture(5), texture(6)] })],
      defaultRulebook.targets['handheld']!,
    )
    expect([seven!.value, seven!.how]).toEqual(['7 textures', '2 of them are not drawn: a slot takes 5'])
    // One picture in two inputs is one texture
    expect(lines(slot({ textures: [...five, texture(4)] }), 'handheld')).toEqual([])
    expect(lines(slot({ textures: [texture(0, 1)] }), 'handheld')).toEqual([])
    const beyond = carryOver([slot({ textures: [texture(0, 2)] })], defaultRulebook.targets['handheld']!)
    expect(beyond).toEqual([
      {
        slot: 'pane',
        setting: 'UV channel',
        value: 'UV2 for map0',
        fate: 'changed',
        how: 'it follows UV1: there are 2 channels',
      },
    ])
  })
})
