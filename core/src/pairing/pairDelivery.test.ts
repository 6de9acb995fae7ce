import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Pairing, PairingProblem, TextureRole } from '@stern-gate/contract'
import { customs } from '../fixtures/pairing/customs'
import { cellKey, makeDelivery, namesTell } from '../fixtures/pairing/makeDelivery'
import { looksLike, problemOf } from '../fixtures/pairing/problemOf'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { pairDelivery } from './pairDelivery'

const pair = (problem: PairingProblem, decided: Parameters<typeof pairDelivery>[2] = []) =>
  pairDelivery(problem, defaultRulebook, decided)
const cell = ({ cells }: Pairing, slot: string, input: TextureRole) =>
  cells.find((c) => c.slot === slot && c.input === input)
const texture = (pairing: Pairing, slot: string, input: TextureRole): string | null | undefined =>
  cell(pairing, slot, input)?.texture

describe('a delivery is paired as a whole', () => {
  const capstan = [
    { asset: 'harbour_capstan_a', slot: 'capstan-iron' },
    { asset: 'harbour_capstan_a', slot: 'capstan-oak' },
  ]

  it('what one slot surely has is not the other’s, though its name would do', () => {
    const pairing = pair(
      problemOf(capstan, [
        'capstan_iron_bc.png',
        'capstan_iron_nm.png',
        'capstan_wood_col.png',
        'capstan_wood_n.png',
      ]),
    )
    expect(texture(pairing, 'harbour_capstan_a › capstan-iron', 'basecolor')).toBe('capstan_iron_bc.png')
    expect(texture(pairing, 'harbour_capstan_a › capstan-oak', 'basecolor')).toBe('capstan_wood_col.png')
    expect(texture(pairing, 'harbour_capstan_a › capstan-oak', 'normal')).toBe('capstan_wood_n.png')
  })

  it('one set serves two slots of a mesh that it is named for, and is less sure of either', () => {
    const slots = [
      { asset: 'crate_c', slot: 'crate-pine' },
      { asset: 'crate_c', slot: 'crate-band' },
    ]
    const pairing = pair(problemOf(slots, ['crate_c_base.png', 'crate_c_norm.png']))
    for (const { slot } of slots) {
      const found = cell(pairing, `crate_c › ${slot}`, 'basecolor')!
      expect(found.texture).toBe('crate_c_base.png')
      expect(found.confidence).toBeLessThan(0.9)
      expect(found.rivals).toHaveLength(1)
    }
  })

  it('what no name explains stays open, says so, and lies in the tray', () => {
    const pairing = pair(
      problemOf([{ asset: 'harbour_ladder_a', slot: 'ladder-rungs' }], ['ref_photo_014.png', 'lighting.png']),
    )
    const open = cell(pairing, 'harbour_ladder_a › ladder-rungs', 'basecolor')!
    expect([open.state, open.texture, open.confidence]).toEqual(['open', null, 0])
    expect(open.reason).toContain('ladder')
    expect(pairing.tray.map((t) => t.texture)).toEqual(['lighting.png', 'ref_photo_014.png'])
  })

  it('a number or a letter that is another speaks against a texture', () => {
    const pairing = pair(
      problemOf([{ asset: 'crate_a', slot: 'crate' }], ['crate_b_bc.png', 'crate_b_n.png', 'crate_a_n.png']),
    )
    expect(texture(pairing, 'crate_a › crate', 'normal')).toBe('crate_a_n.png')
    const other = cell(pairing, 'crate_a › crate', 'basecolor')!
    expect(other.confidence).toBeLessThan(0.5)
    expect(other.texture === null || other.reason.includes('numbered for another')).toBe(true)
  })

  it('the pixels are asked where the name says nothing, and told where they say another thing', () => {
    const pairing = pair(
      problemOf(
        [{ asset: 'ladder', slot: 'ladder' }],
        [
          { path: 'ladder_01.png', content: looksLike('basecolor') },
          { path: 'ladder_02.png', content: looksLike('normal', 0.95) },
          { path: 'ladder_rough.png', content: looksLike('normal', 0.95) },
        ],
      ),
    )
    expect(texture(pairing, 'ladder › ladder', 'basecolor')).toBe('ladder_01.png')
    expect(texture(pairing, 'ladder › ladder', 'normal')).toBe('ladder_02.png')
    expect(cell(pairing, 'ladder › ladder', 'normal')!.reason).toContain('by its pixels it is normal')
    const wrong = cell(pairing, 'ladder › ladder', 'roughness')
    expect([wrong?.texture, wrong?.wrongInput]).toEqual(['ladder_rough.png', 'normal'])
  })

  it('what the file wires stays, brings its set along, and is held against its pixels', () => {
    const pairing = pair(
      problemOf(
        [
          {
            asset: 'buoy',
            slot: 'Material 1',
            wired: [{ input: 'basecolor' as const, texture: 'lamp_bc.png', id: 'lamp_bc.png' }],
          },
          { asset: 'buoy', slot: 'Material 2' },
        ],
        [
          { path: 'lamp_bc.png', content: looksLike('normal', 0.97) },
          'lamp_n.png',
          { path: 'glass_n.png', content: looksLike('normal') },
        ],
      ),
    )
    const wired = cell(pairing, 'buoy › Material 1', 'basecolor')!
    expect([wired.state, wired.confidence, wired.wrongInput]).toEqual(['wired', 1, 'normal'])
    expect(texture(pairing, 'buoy › Material 1', 'normal')).toBe('lamp_n.png')
  })

  it('says that pixels look like something else only where they do', () => {
    const wired = (texture: string, content: ReturnType<typeof looksLike>) =>
      cell(
        pair(
          problemOf(
            [{ asset: 'buoy', slot: 'buoy', wired: [{ input: 'orm' as const, texture, id: texture }] }],
            [{ path: texture, content }],
          ),
        ),
        'buoy › buoy',
        'orm',
      )!.wrongInput
    // Its name says roughness; that is one channel of what the input takes, and no word of its pixels
    expect(wired('buoy_roughness.png', [])).toBe(null)
    expect(wired('buoy_roughness.png', looksLike('roughness', 0.95))).toBe(null)
    expect(wired('buoy_orm.png', looksLike('normal', 0.95))).toBe('normal')
  })

  it('what a person decided stays, and the others move', () => {
    const problem = problemOf(capstan, ['capstan_iron_bc.png', 'capstan_wood_bc.png'])
    const pairing = pair(problem, [
      { slot: 'harbour_capstan_a › capstan-oak', input: 'basecolor', texture: 'capstan_iron_bc.png' },
      { slot: 'harbour_capstan_a › capstan-oak', input: 'normal', texture: null },
    ])
    const oak = cell(pairing, 'harbour_capstan_a › capstan-oak', 'basecolor')!
    expect([oak.state, oak.texture]).toEqual(['wired', 'capstan_iron_bc.png'])
    expect(cell(pairing, 'harbour_capstan_a › capstan-oak', 'normal')!.state).toBe('open')
  })

  it('a packed map answers for its channels, single maps for the packed one', () => {
    const wants: TextureRole[] = ['basecolor', 'orm', 'roughness']
    const packed = pair(
      problemOf([{ asset: 'crate', slot: 'crate', wants }], ['crate_bc.png', 'crate_rma.png']),
    )
    expect(packed.cells.map((c) => [c.input, c.state, c.layout])).toEqual([
      ['basecolor', 'found', null],
      ['orm', 'found', 'rma'],
    ])
    const singles = pair(
      problemOf(
        [{ asset: 'crate', slot: 'crate', wants }],
        ['crate_bc.png', 'crate_gloss.png', 'crate_metalness.png'],
      ),
    )
    expect(singles.cells.map((c) => [c.input, c.inverted])).toEqual([
      ['basecolor', false],
      ['roughness', true],
      ['metallic', false],
    ])
  })

  it('a tile set is known by its first tile, a copy by its bytes', () => {
    const pairing = pair(
      problemOf(
        [{ asset: 'seawall', slot: 'seawall' }],
        [
          'seawall_bc.1002.png',
          'seawall_bc.1001.png',
          'seawall_n.png',
          { path: 'seawall_n copy.png', sha256: 'bytes of seawall_n.png' },
        ],
      ),
    )
    expect(texture(pairing, 'seawall › seawall', 'basecolor')).toBe('seawall_bc.1001.png')
    expect(pairing.tray).toHaveLength(1)
    expect(pairing.tray[0]!.note).toMatch(/^the same as seawall_n/)
    expect(cell(pairing, 'seawall › seawall', 'normal')!.confidence).toBeGreaterThan(0.9)
  })
})

describe('properties', () => {
  const summary = (pairing: Pairing, rename: (name: string) => string = (n) => n) =>
    pairing.cells
      .map((c) => `${rename(c.slot)} ${c.input} ${c.texture === null ? '–' : rename(c.texture)}`)
      .sort()
  const anyDelivery = fc
    .record({ custom: fc.constantFrom(...customs), seed: fc.integer({ min: 1, max: 5000 }) })
    .map(({ custom, seed }) => makeDelivery(custom, seed))

  it('the order of files and slots does not matter', () => {
    fc.assert(
      fc.property(anyDelivery, fc.infiniteStream(fc.nat(1000)), ({ problem }, luck) => {
        const shuffled = <T>(list: readonly T[]): T[] =>
          list
            .map((item) => [luck.next().value as number, item] as const)
            .sort(([a], [b]) => a - b)
            .map(([, item]) => item)
        const mixed = { slots: shuffled(problem.slots), textures: shuffled(problem.textures) }
        expect(summary(pair(mixed))).toEqual(summary(pair(problem)))
      }),
      { numRuns: 40 },
    )
  })

  it('a word before every name, or another separator, changes nothing', () => {
    const plain = customs.filter((c) => c.join === '_' && !c.slot.includes('Material'))
    fc.assert(
      fc.property(fc.constantFrom(...plain), fc.integer({ min: 1, max: 3000 }), (custom, seed) => {
        const { problem } = makeDelivery(custom, seed)
        for (const rename of [
          (path: string) => path.replace(/[^/]+$/, (file) => `zulu_${file}`),
          (path: string) => path.replace(/[^/]+$/, (file) => file.replaceAll('_', '-')),
        ]) {
          const renamed: PairingProblem = {
            slots: problem.slots.map((s) => ({
              ...s,
              slot: rename(s.slot),
              asset: rename(s.asset),
              path: rename(s.path),
            })),
            textures: problem.textures.map((t) => ({ ...t, path: rename(t.path) })),
          }
          const found = (p: Pairing) => summary(p).length
          const [before, after] = [pair(problem), pair(renamed)]
          expect(found(after)).toBe(found(before))
          expect(summary(after)).toEqual(summary(before))
        }
      }),
      { numRuns: 40 },
    )
  })

  it('a perfect set pairs whole, and surely', () => {
    const perfect = customs.filter(
      (c) => c.slot === '{thing}{surface}' && c.texture === '{thing}{surface}{role}',
    )
    for (const custom of perfect) {
      const { problem, truth } = makeDelivery({ ...custom, mess: [], words: customs[0]!.words, join: '_' }, 7)
      const { cells } = pair(problem)
      for (const [key, right] of truth) {
        const found = cells.find((c) => cellKey(c.slot, c.input) === key)!
        expect(right.has(found.texture!), key).toBe(true)
        expect(found.confidence, key).toBeGreaterThan(0.9)
      }
    }
  })
})

describe('made-up deliveries in many customs', () => {
  const seeds = [1, 2]
  const cells = customs.flatMap((custom, i) =>
    seeds.flatMap((seed) => {
      const delivery = makeDelivery(custom, seed + 10 * i)
      const named = namesTell(custom)
      const found = pair(delivery.problem).cells.filter((c) => c.state === 'found')
      return [
        { named, asked: delivery.truth.size, right: false, confidence: -1 },
        ...found.map((c) => ({
          named,
          asked: 0,
          right: delivery.truth.get(cellKey(c.slot, c.input))?.has(c.texture!) ?? false,
          confidence: c.confidence,
        })),
      ]
    }),
  )
  const found = cells.filter((c) => c.confidence >= 0)

  it('are a hundred and more, each its own', () => {
    expect(customs.length).toBeGreaterThanOrEqual(80)
    expect(new Set(customs.map((c) => JSON.stringify({ ...c, name: '' }))).size).toBe(customs.length)
  })
  it('from 0.9 on at least 98 in a hundred are right', () => {
    const sure = found.filter((c) => c.confidence >= 0.9)
    expect(sure.filter((c) => c.right).length / sure.length).toBeGreaterThanOrEqual(0.98)
  })
  it('nine in ten of what slots with names ask for are found so surely', () => {
    const sure = found.filter((c) => c.named && c.confidence >= 0.9 && c.right)
    const asked = cells.filter((c) => c.named).reduce((sum, c) => sum + c.asked, 0)
    expect(sure.length / asked).toBeGreaterThanOrEqual(0.9)
  })
  it('confidence is about the share that is right', () => {
    for (const [from, to, within] of [
      // Where names say nothing, chance decides: few cells, and no weights tell them apart
      [0.1, 0.5, 0.2],
      [0.5, 0.8, 0.15],
      [0.8, 0.9, 0.1],
      [0.9, 1, 0.03],
    ] as const) {
      const bin = found.filter((c) => c.confidence >= from && c.confidence < to)
      const said = bin.reduce((sum, c) => sum + c.confidence, 0) / bin.length
      const right = bin.filter((c) => c.right).length / bin.length
      expect(Math.abs(right - said), `${from} to ${to}: ${right} are right`).toBeLessThan(within)
    }
  })
})
