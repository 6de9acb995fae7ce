import { describe, expect, it } from 'vitest'
import { defaultRulebook } from '@stern-gate/core'
import { crateFiles, measureFixture } from '@stern-gate/core/fixtures'
import { report } from './deliveryReport'

const options = { rulebook: defaultRulebook, target: 'desk', classChoice: null, version: 'test' }

describe('a report of one delivery', () => {
  it('offers no two assets the same new name, and one asset the same one by all rules', async () => {
    const measured = await measureFixture({
      ...(await crateFiles({ name: 'harbour_lantern_a' })),
      ...(await crateFiles({ name: 'Harbour-Box', folder: 'one' })),
      ...(await crateFiles({ name: 'HARBOUR BOX', folder: 'two' })),
    })
    const offers = report(measured, options).assets.map(({ name, findings }) => [
      name,
      new Set(
        findings
          .flatMap((f) => f.remedies)
          .filter((r) => r.remedy === 'names/rename' && r.options['what'] === 'asset')
          .map((r) => r.options['to']),
      ),
    ])
    expect(offers).toEqual([
      ['Harbour-Box', new Set(['prop_harbour_box'])],
      ['harbour_lantern_a', new Set()],
      ['HARBOUR BOX', new Set(['prop_harbour_box_a'])],
    ])
  })
})
