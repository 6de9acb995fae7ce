import { describe, expect, it } from 'vitest'
import { counts, type Finding, type Waiver } from '@stern-gate/contract'
import { crateFiles, measureFixture } from '../fixtures/index'
import { assembleAssets } from '../assembly/assembleAssets'
import { buildSubject } from '../subject/buildSubject'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { rules } from '../rules/index'
import type { Subject } from '../subject/subject'
import { judge, type Judgement } from './judge'

const measured = await measureFixture(await crateFiles({ grid: 32, levels: 2, insideOut: 'one-face' }))
const [draft] = assembleAssets(measured, defaultRulebook)
const subject: Subject = buildSubject(
  draft!,
  draft!.files.map((f) => measured.find((m) => m.path === f.path)!),
  {
    rulebook: defaultRulebook,
    targetName: 'desk',
    classChoice: null,
    taken: new Set(),
    family: null,
  },
)
const ASSET = 'props/harbour_crate_a.glb'
const judged = (waivers: Waiver[], today = '2026-05-05'): Judgement =>
  judge(subject, rules, { asset: ASSET, today, waivers })
const plain = judge(subject)
const of = (judgement: Judgement, rule: string): Finding => judgement.findings.find((f) => f.rule === rule)!
const waiver = (rule: string, more: Partial<Waiver> = {}): Waiver => ({
  rule,
  scope: { kind: 'finding', asset: ASSET, fingerprint: of(plain, rule).fingerprint },
  reason: 'seen from above only',
  until: null,
  by: 'Ada',
  given: '2026-05-01',
  value: of(plain, rule).value,
  ...more,
})

describe('a waiver', () => {
  it('takes its finding out of every count, and the verdict with it', () => {
    expect(plain).toMatchObject({ verdict: 'held', waived: 0 })
    const after = judged([waiver('mesh/inside-out')])
    expect(after).toMatchObject({ verdict: 'clear', waived: 1 })
    expect(of(after, 'mesh/inside-out').waived).toEqual({
      reason: 'seen from above only',
      until: null,
      by: 'Ada',
      given: '2026-05-01',
      scope: 'finding',
      value: of(plain, 'mesh/inside-out').value,
      fallen: null,
    })
    expect(after.tally.mesh.count).toBe(plain.tally.mesh.count - 1)
    expect(after.findings).toHaveLength(plain.findings.length)
  })
  it('leaves a station that has nothing else marked as waived', () => {
    const all = plain.findings.map((f) => waiver(f.rule))
    expect(judged(all).tally.mesh).toEqual({ state: 'waived', count: 0 })
  })
  it('holds to the end of its last day', () => {
    const ends = (today: string): Judgement =>
      judged([waiver('mesh/inside-out', { until: '2026-05-05' })], today)
    expect(ends('2026-05-05').verdict).toBe('clear')
    expect(ends('2026-05-06')).toMatchObject({ verdict: 'held', waived: 0 })
    expect(of(ends('2026-05-06'), 'mesh/inside-out').waived?.fallen).toBe('ended')
    expect(counts(of(ends('2026-05-06'), 'mesh/inside-out'))).toBe(true)
  })
  it('falls when the value gets worse, and holds when it gets better', () => {
    const value = of(plain, 'mesh/triangle-budget').value!
    const given = (at: number): Finding =>
      of(judged([waiver('mesh/triangle-budget', { value: at })]), 'mesh/triangle-budget')
    expect(given(value).waived?.fallen).toBeNull()
    expect(given(value + 100).waived?.fallen).toBeNull()
    expect(given(value - 100).waived?.fallen).toBe('worse')
    // Measured anew a value is never the very same
    expect(given(value * 0.9995).waived?.fallen).toBeNull()
    expect(
      of(judged([waiver('mesh/triangle-budget', { value: null })]), 'mesh/triangle-budget').waived?.fallen,
    ).toBeNull()
  })
  it.each<[Waiver['scope'], boolean]>([
    [{ kind: 'asset', asset: ASSET }, true],
    [{ kind: 'asset', asset: 'another' }, false],
    [{ kind: 'class', class: 'prop' }, true],
    [{ kind: 'class', class: 'vessel' }, false],
    [{ kind: 'files', glob: 'props/**' }, true],
    [{ kind: 'files', glob: '*.glb' }, true],
    [{ kind: 'files', glob: 'vessels/**' }, false],
    [{ kind: 'finding', asset: 'another', fingerprint: of(plain, 'mesh/inside-out').fingerprint }, false],
    [{ kind: 'finding', asset: ASSET, fingerprint: 'of nothing' }, false],
  ])('of reach %j waives: %s', (scope, waives) => {
    expect(judged([waiver('mesh/inside-out', { scope })]).verdict).toBe(waives ? 'clear' : 'held')
  })
  it('of another rule waives nothing, and one that holds goes before one that fell', () => {
    expect(judged([waiver('mesh/inside-out', { rule: 'mesh/holes' })]).waived).toBe(0)
    const both = judged([
      waiver('mesh/inside-out', { until: '2026-01-01', reason: 'old' }),
      waiver('mesh/inside-out', { reason: 'new' }),
    ])
    expect(of(both, 'mesh/inside-out').waived).toMatchObject({ reason: 'new', fallen: null })
  })
})
