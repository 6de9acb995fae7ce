import { describe, expect, it } from 'vitest'
import { SOUNDED_CLASS } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { rules } from '../rules/index'
import type { Subject } from '../subject/subject'
import { findSounding, soundings } from './soundings'

const subjectOf = async (options: Parameters<typeof crateFiles>[0]): Promise<Subject> =>
  (await subjectsOf(await crateFiles(options))).find((s) => s.kind === 'mesh')!
const valuesOf = (rule: string, subject: Subject): number[] => findSounding(rule)!.values(subject)

describe('a sounding', () => {
  it('gives values of things that pass their rule, too', async () => {
    const crate = await subjectOf({ grid: 4, size: 1.5 })
    expect(valuesOf('mesh/triangle-budget', crate)).toEqual([192])
    expect(valuesOf('scale/expected-size', crate)[0]).toBeCloseTo(1.5)
    expect(valuesOf('slots/count', crate)).toEqual([1])
    expect(valuesOf('slots/tiny', await subjectOf({ faceSlots: ['a-wood', 'b-wood'] }))).toEqual([0.5, 0.5])
    expect(valuesOf('colour/normal-length', crate)).toEqual([1])
    expect(valuesOf('uvs/overlap', await subjectOf({ uvs: 'atlas', folder: 'decals' }))).toEqual([0])
    expect(valuesOf('collision/corners', crate)).toEqual([8])
    // A fiftieth of a third of the sheet on either side, 256 texels
    const lit = await subjectOf({ folder: 'structures', uvs: 'atlas', lightmap: 'atlas' })
    expect(valuesOf('uvs/lightmap-gap', lit)[0]).toBeCloseTo((0.04 / 3) * 256, 2)
  })
  it('says nothing of what it does not measure', async () => {
    const bare = await subjectOf({ hull: false, inputs: [] })
    expect(valuesOf('collision/corners', bare)).toEqual([])
    expect(valuesOf('colour/normal-length', bare)).toEqual([])
  })
  it.each(soundings.map((s) => [s.rule, s] as const))(
    'of %s has limits that stand in a rulebook',
    (id, sounding) => {
      const rule = rules.find((r) => r.id === id)!
      for (const { path, initial } of sounding.limits)
        if (sounding.byClass) expect([path.slice(0, 2), initial]).toEqual([['classes', SOUNDED_CLASS], null])
        else {
          expect(path.slice(0, 3)).toEqual(['rules', id, 'options'])
          expect((rule.options.parse({}) as Record<string, unknown>)[path[3]!]).toBe(initial)
        }
    },
  )
})
