import * as z from 'zod'
import { beforeAll, describe, expect, it } from 'vitest'
import type { Level, RemedyOptions } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { defineRule, type RawFinding, type Rule } from '../rules/defineRule'
import type { Subject } from '../subject/subject'
import { judge } from './judge'

let subject: Subject
beforeAll(async () => {
  subject = (await subjectsOf(await crateFiles({ textureSize: [64, 64] })))[0]!
})

/** A rule that says what it is told to. */
const ruleOf = (
  id: string,
  level: Level,
  found: RawFinding<'said', 'do'>[] = [{ message: 'said', data: {}, place: { kind: 'asset' } }],
): Rule =>
  defineRule({
    id,
    station: id.split('/')[0] as Rule['station'],
    meta: { title: '', why: '', level, kinds: ['mesh'], reads: [] },
    options: z.strictObject({}),
    messages: { said: 'It says so.' },
    labels: { do: 'Do it' },
    judge: () => found,
  }) as Rule

describe('a judgement', () => {
  it('has the gravest level of each station, whatever comes first, and counts all', () => {
    const grave: [Level[], Level][] = [
      [['note', 'stop', 'caution'], 'stop'],
      [['stop', 'note'], 'stop'],
      [['note', 'caution'], 'caution'],
      [['caution', 'note'], 'caution'],
      [['note'], 'note'],
    ]
    for (const [levels, state] of grave) {
      const rules = levels.map((level, i) => ruleOf(`mesh/r${i}`, level))
      const { tally, verdict } = judge(subject, rules)
      expect([levels, tally.mesh]).toEqual([levels, { state, count: levels.length }])
      expect(verdict).toBe(state === 'stop' ? 'held' : 'clear')
    }
  })
  it('is clear where rules looked, and says none where none did', () => {
    const { tally } = judge(subject, [ruleOf('mesh/r', 'stop', []), ruleOf('uvs/r', 'note')])
    expect([tally.mesh, tally.uvs, tally.files]).toEqual([
      { state: 'clear', count: 0 },
      { state: 'note', count: 1 },
      { state: 'none', count: 0 },
    ])
  })
  it('lists findings by station, the gravest first', () => {
    const rules = [ruleOf('uvs/a', 'stop'), ruleOf('mesh/b', 'note'), ruleOf('mesh/c', 'stop')]
    expect(judge(subject, rules).findings.map((f) => f.rule)).toEqual(['mesh/c', 'mesh/b', 'uvs/a'])
  })
  it('goes by the project: a rule may be switched off, or have another level', () => {
    const rules = [ruleOf('mesh/a', 'stop'), ruleOf('mesh/b', 'note')]
    const rulebook = {
      ...subject.rulebook,
      rules: { 'mesh/a': { enabled: false }, 'mesh/b': { level: 'stop' as const } },
    }
    const { findings, verdict } = judge({ ...subject, rulebook }, rules)
    expect([findings.map((f) => [f.rule, f.level]), verdict]).toEqual([[['mesh/b', 'stop']], 'held'])
  })
  it('goes by the class: a rule may be off for one, or have another level there', () => {
    const rules = [ruleOf('mesh/a', 'stop'), ruleOf('mesh/b', 'note')]
    const said = (className: string) => {
      const settings = {
        'mesh/a': { levelByClass: { decals: 'off' as const } },
        'mesh/b': { levelByClass: { decals: 'stop' as const } },
      }
      const rulebook = { ...subject.rulebook, rules: settings }
      return judge({ ...subject, className, rulebook }, rules).findings.map((f) => [f.rule, f.level])
    }
    expect(said('decals')).toEqual([['mesh/b', 'stop']])
    expect(said('models')).toEqual([
      ['mesh/a', 'stop'],
      ['mesh/b', 'note'],
    ])
  })
  it('says as a note what a class expects that nobody chose', () => {
    const rule = {
      ...ruleOf('mesh/a', 'stop'),
      messages: { said: { text: 'The class wants more.', byClass: true } },
    } as Rule
    const levelWith = (classFrom: Subject['classFrom']): Level =>
      judge({ ...subject, classFrom }, [rule]).findings[0]!.level
    expect([levelWith('default'), levelWith('choice')]).toEqual(['note', 'stop'])
    // A message that speaks of no class keeps its level
    expect(judge({ ...subject, classFrom: 'default' }, [ruleOf('mesh/a', 'stop')]).findings[0]!.level).toBe(
      'stop',
    )
  })
  it('leaves rules out that do not look at such an asset', () => {
    const sets = {
      ...ruleOf('mesh/a', 'stop'),
      meta: { ...ruleOf('mesh/a', 'stop').meta, kinds: ['texture-set'] },
    } as Rule
    expect(judge(subject, [sets])).toMatchObject({ findings: [], verdict: 'clear' })
  })
})

describe('an offer', () => {
  const offersOf = (asset: Subject, remedy: string, options: RemedyOptions): string[] =>
    judge(asset, [
      ruleOf('colour/r', 'note', [
        { message: 'said', data: {}, place: { kind: 'asset' }, remedies: [{ remedy, options, label: 'do' }] },
      ]),
    ]).findings[0]!.remedies.map((r) => r.remedy)
  it('that changes texels is made only where they can be written anew', () => {
    const [texture, ...others] = subject.textures,
      name = texture!.name
    const stored = {
      ...subject,
      textures: [
        {
          ...texture!,
          facts: {
            ...texture!.facts!,
            header: { ...texture!.facts!.header, blockFormat: 'BC7', format: 'ktx2' as const },
          },
        },
        ...others,
      ],
    }
    expect(offersOf(subject, 'colour/flip-green', { texture: name })).toEqual(['colour/flip-green'])
    expect(offersOf(stored, 'colour/flip-green', { texture: name })).toEqual([])
    // Another texture, and a remedy that works on the mesh, are not touched by that
    expect(offersOf(stored, 'colour/flip-green', { texture: others[0]!.name })).toEqual(['colour/flip-green'])
    expect(offersOf(stored, 'files/point-to', { asked: 'x', texture: name })).toEqual(['files/point-to'])
  })
})

describe('findings of one place', () => {
  it('are numbered where nothing tells them apart, and only then', () => {
    const place = { kind: 'asset' as const }
    const of = (...parts: (string | undefined)[]) =>
      judge(subject, [
        ruleOf(
          'mesh/r',
          'note',
          parts.map((part) => ({ message: 'said' as const, data: {}, place, ...(part ? { part } : {}) })),
        ),
      ]).findings.map((f) => f.fingerprint)
    const [first, second, third] = of(undefined, undefined, undefined)
    expect([second, third]).toEqual([`${first}-2`, `${first}-3`])
    expect(of('a', 'b').every((f) => !f.includes('-'))).toBe(true)
    expect(new Set(of('a', 'b')).size).toBe(2)
  })
  it('on two primitives of one slot are told apart by their number', () => {
    const node = subject.mesh!.nodes![0]!
    const twice = {
      ...subject,
      mesh: {
        ...subject.mesh!,
        nodes: [
          { ...node, primitives: [node.primitives[0]!, node.primitives[0]!] },
          ...subject.mesh!.nodes!.slice(1),
        ],
      },
    }
    const found = [0, 1].map((primitive) => ({
      message: 'said' as const,
      data: {},
      place: { kind: 'triangles' as const, node: node.path, primitive, evidence: '' },
    }))
    const prints = judge(twice, [ruleOf('mesh/r', 'note', found)]).findings.map((f) => f.fingerprint)
    expect(new Set(prints).size).toBe(2)
    expect(prints.every((f) => !f.includes('-'))).toBe(true)
  })
})
