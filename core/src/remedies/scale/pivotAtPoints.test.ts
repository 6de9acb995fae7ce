import { describe, expect, it } from 'vitest'
import type { RemedyOptions } from '@stern-gate/contract'
import { crateFiles, type CrateOptions } from '../../fixtures/crateFixture'
import { subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { judge } from '../../judge/judge'
import { finestBounds } from '../../measure/partsOfDocument'
import { writeWork } from '../../recipe/writeWork'
import { assetNotes } from '../../scene/assetNotes'

/** Two corners of the crate of one metre at its top, and one between them that is no vertex. */
const LEFT = [-0.5, 1, 0.5],
  RIGHT = [0.5, 1, 0.5],
  BETWEEN = [0, 1, 0.5]

async function moved(options: RemedyOptions, crate: CrateOptions = {}) {
  const work = await openedCrate(crate)
  const done = await mend(work, 'scale/pivot-at-points', options)
  return { work, done, bounds: finestBounds(work.document!)! }
}

describe('the pivot at picked points', () => {
  it('is their middle', async () => {
    const { done, bounds, work } = await moved({ points: [...LEFT, ...RIGHT] })
    // From the base centre up by 1 and forward by 0.5
    expect(done).toMatchObject({ changed: true, said: 'moved by 1.12 m' })
    expect(bounds).toEqual({ min: [-0.5, -1, -1], max: [0.5, 0, 0] })
    expect(assetNotes(work.document!).pivotMeant).toBe(true)
  })
  it('stays along an axis, or goes to the lowest end along it', async () => {
    const { bounds } = await moved(
      { points: [0.5, 1.25, 0.5], y: 'lowest', z: 'stays' },
      { at: [0, 0.25, 0] },
    )
    expect(bounds).toEqual({ min: [-1, 0, -0.5], max: [0, 1, 0.5] })
  })
  it('is found again by place, and says how many points were', async () => {
    expect((await moved({ points: [...LEFT, ...BETWEEN] })).done.said).toBe(
      'moved by 1.15 m; 1 of 2 points were found again',
    )
  })
  it('is refused where none of its points is there any more, unless they are of what stands beside it', async () => {
    const away = { points: BETWEEN }
    expect((await moved({})).done).toMatchObject({ changed: false, said: 'no point is picked' })
    await expect(moved({ points: [1, 2] })).rejects.toThrow()
    await expect(moved(away)).rejects.toThrow('None of the 1 picked points')
    const { bounds } = await moved({ ...away, beside: true })
    expect(bounds.min).toEqual([-0.5, -1, -1])
  })
  it('is meant: the rule says nothing of it, in the output either', async () => {
    const { work } = await moved({ points: RIGHT })
    const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
    const [before] = await subjectsOf(await crateFiles({ at: [0.4, 0, 0] })),
      [after] = await subjectsOf(files)
    const said = (subject: typeof before) =>
      judge(subject!).findings.filter((f) => f.rule === 'scale/pivot').length
    expect([said(before), said(after)]).toEqual([1, 0])
    expect(after!.mesh!.file.notes.pivotMeant).toBe(true)
  })
})
