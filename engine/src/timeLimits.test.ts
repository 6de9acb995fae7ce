import { describe, expect, it } from 'vitest'
import type { Task } from './tasks'
import { timeLimit, tooSlow } from './timeLimits'

const step = (remedy: string) => ({ remedy, options: {}, by: 'a' })
const mend = (...remedies: string[]): Task =>
  ({ kind: 'mend', recipe: { steps: remedies.map(step) } }) as unknown as Task
const of = (kind: Task['kind']): Task => ({ kind }) as unknown as Task

describe('time that a task may take', () => {
  it('grows from three eighths with the bytes of a file, up to 25 MB', () => {
    for (const kind of ['measure', 'validate'] as const) {
      expect(timeLimit(of(kind), 120, 0)).toBe(45)
      expect(timeLimit(of(kind), 120, 12.5e6)).toBe(82.5)
      expect(timeLimit(of(kind), 120, 25e6)).toBe(120)
      expect(timeLimit(of(kind), 120, 900e6)).toBe(120)
    }
  })
  it('is half as much more for each slow step of a recipe, and not for the others', () => {
    expect(timeLimit(mend('mesh/weld', 'colour/flip-green', 'no/such'), 120)).toBe(120)
    expect(timeLimit(mend('lods/make', 'mesh/weld', 'collision/make'), 120)).toBe(240)
  })
  it('is long for encoding, and short for a picture', () => {
    expect([of('encode'), of('search'), of('picture')].map((t) => timeLimit(t, 120))).toEqual([600, 600, 60])
  })
  it('is told with what was stopped', () => {
    expect(tooSlow(mend(), 119.6).fault).toMatchObject({
      code: 'file/timeout',
      why: 'Making the output was not done within 120 s and was stopped.',
    })
  })
})
