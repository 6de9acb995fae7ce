import { describe, expect, it } from 'vitest'
import type { Finding } from '@stern-gate/contract'
import { crateFiles, type CrateOptions } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { judge } from './judge'
import { isShared, sharedFindings, type JudgedAsset } from './sharedFindings'
import { speakOnce } from './speakOnce'

async function judged(id: string, options: CrateOptions): Promise<JudgedAsset> {
  const [subject] = (await subjectsOf(await crateFiles(options))).filter((s) => s.kind === 'mesh')
  return { id, kind: 'mesh', findings: judge(subject!).findings }
}
const big = (n: number): Promise<JudgedAsset> => judged(`big${n}`, { size: 100 + n })

describe('what is the same for a whole delivery', () => {
  it('is said once: eight models that all look like centimetres', async () => {
    const assets = [...(await Promise.all([0, 1, 2, 3, 4, 5, 6, 7].map(big))), await judged('fine', {})]
    const found = sharedFindings(assets).find((s) => s.rule === 'scale/expected-size')!
    expect(found).toMatchObject({
      text: '8 of 9 assets look like centimetres read as metres.',
      of: 9,
      act: { kind: 'remedy', remedy: 'scale/rescale' },
    })
    expect(found.assets).toHaveLength(8)
    const own = assets[0]!.findings.find((f) => f.rule === 'scale/expected-size')!
    expect(isShared(own, 'big0', [found])).toBe(true)
    expect(isShared(own, 'fine', [found])).toBe(false)
  })
  it('counts several units among the same, and leaves out other sizes that are not expected', async () => {
    const assets = await Promise.all([0, 1, 2].map(big))
    const as = (message: string): JudgedAsset[] =>
      assets.map((a) => ({
        ...a,
        findings: a.findings.map((f) => (f.rule === 'scale/expected-size' ? { ...f, message } : f)),
      }))
    const count = (all: JudgedAsset[]): number =>
      sharedFindings(all).filter((s) => s.rule === 'scale/expected-size').length
    expect([as('unit'), as('units'), as('size')].map(count)).toEqual([1, 1, 0])
  })
  it('is not said of two, of less than three in five, or of what is waived', async () => {
    const [a, b, c] = await Promise.all([big(0), big(1), big(2)])
    const sizes = (assets: JudgedAsset[]): number =>
      sharedFindings(assets).filter((s) => s.rule === 'scale/expected-size').length
    expect(sizes([a!, b!])).toBe(0)
    expect(sizes([a!, b!, c!])).toBe(1)
    const fine = await Promise.all([0, 1, 2].map((n) => judged(`fine${n}`, {})))
    expect(sizes([a!, b!, c!, ...fine])).toBe(0)
    const waived = {
      reason: 'x',
      until: null,
      by: '',
      given: null,
      scope: 'asset' as const,
      value: null,
      fallen: null,
    }
    const accepted = { ...a!, findings: a!.findings.map((f) => ({ ...f, waived })) }
    expect(sizes([accepted, b!, c!])).toBe(0)
  })
  it('of names asks whether the pattern is another here', async () => {
    const assets = await Promise.all(['KIT_A', 'KIT_B', 'KIT_C'].map((name) => judged(name, { name })))
    expect(sharedFindings(assets)).toMatchObject([
      {
        rule: 'names/pattern',
        text: expect.stringMatching(/^3 of 3 assets have names/),
        act: { kind: 'fit' },
      },
    ])
  })
})

describe('one cause', () => {
  const finding = (rule: string, level: Finding['level'], place: Finding['place']): Finding => ({
    rule,
    station: 'names',
    level,
    message: '',
    text: `${rule}.`,
    data: {},
    place,
    also: [],
    gauge: null,
    remedies: [],
    value: null,
    fingerprint: rule,
    alike: [],
    waived: null,
  })
  const name = (of: string): Finding['place'] => ({ kind: 'name', what: 'texture', name: of, span: [0, 1] })
  it('speaks once of a name', () => {
    const kept = speakOnce([
      finding('names/characters', 'caution', name('a b')),
      finding('names/pattern', 'caution', name('a b')),
      finding('names/pattern', 'caution', name('other')),
    ])
    expect(kept.map((f) => [f.rule, f.text])).toEqual([
      ['names/characters', 'names/characters. It does not fit the pattern either.'],
      ['names/pattern', 'names/pattern.'],
    ])
  })
  it('speaks once of a texture that nothing tells the role of', () => {
    const kept = speakOnce([
      finding('names/role-known', 'caution', { kind: 'texture', texture: 'x.png' }),
      finding('names/pattern', 'caution', name('x.png')),
    ])
    expect(kept.map((f) => f.rule)).toEqual(['names/role-known'])
  })
  it('never holds back what is graver', () => {
    const both = [
      finding('names/characters', 'note', name('a b')),
      finding('names/pattern', 'stop', name('a b')),
    ]
    expect(speakOnce(both)).toEqual(both)
  })
})
