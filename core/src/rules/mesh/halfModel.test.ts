import { expect, it } from 'vitest'
import { crateFiles } from '../../fixtures/crateFixture'
import { subjectsOf } from '../../fixtures/measureFixture'
import { judge } from '../../judge/judge'
import type { Subject } from '../../subject/subject'
import type { Rule } from '../defineRule'
import { halfModel } from './halfModel'

/** A half crate whose node stands `own` metres along X in a group that stands `group` metres along it. */
async function halfIn(own: number, group: number, planeAt: number): Promise<Subject> {
  const [subject] = await subjectsOf(await crateFiles({ grid: 2, half: 'X' }))
  const node = subject!.parts.drawn[0]!
  const moved = {
    ...node,
    parent: 'yard',
    translation: [own, 0, 0] as [number, number, number],
    topology: { ...node.topology!, openPlane: { ...node.topology!.openPlane!, at: planeAt } },
  }
  const yard = { ...node, path: 'yard', parent: null, translation: [group, 0, 0] as [number, number, number] }
  return {
    ...subject!,
    mesh: { ...subject!.mesh!, nodes: [yard, moved] },
    parts: { ...subject!.parts, drawn: [moved] },
  }
}
const saysOf = (subject: Subject): number =>
  judge(subject, [halfModel as unknown as Rule]).findings.filter((f) => f.rule === 'mesh/half-model').length

it('the plane is held against the origin of the node in the world, groups above it included', async () => {
  expect(saysOf(await halfIn(0.2, 0.3, 0.5))).toBe(1)
  expect(saysOf(await halfIn(0.2, 0.3, 0.2))).toBe(0)
  expect(saysOf(await halfIn(0.2, 0.3, 0.3))).toBe(0)
  expect(saysOf(await halfIn(0, 0, 0))).toBe(1)
})
