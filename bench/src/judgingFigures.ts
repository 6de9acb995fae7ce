import { assembleAssets, buildSubject, defaultRulebook, judge } from '@stern-gate/core'
import { crateFiles, measureFixture } from '@stern-gate/core/fixtures'
import { median, once } from './clock'
import type { Figure } from './figure'

/** Judging from stored facts: 10,000 assets, and against measuring the same. */
export async function judgingFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell('10,000 assets judged')
  const files = await crateFiles({ grid: 20, textureSize: [512, 512] })
  const measuring = await median(3, () => measureFixture(files))
  const measured = await measureFixture(files)
  const [draft] = assembleAssets(measured, defaultRulebook)
  const taken = new Set<string>()
  const judgeOne = (i: number): unknown => judge(buildSubject({ ...draft!, name: `harbour_crate${i}_a` }, measured, { rulebook: defaultRulebook, targetName: 'desk', classChoice: null, taken, family: 'harbour' }))
  for (let i = 0; i < 500; i++) judgeOne(i)
  const all = await once(() => { for (let i = 0; i < 10_000; i++) judgeOne(i) })
  return [
    { what: '10,000 assets (a crate with three textures each) judged from facts, in seconds', measured: `${all.toFixed(0)} ms`, ratio: all / 1000, wanted: { most: 1 } },
    { what: 'Measuring one of them against judging it', measured: `${measuring.toFixed(1)} ms against ${(all / 10_000).toFixed(3)} ms`, ratio: measuring / (all / 10_000), wanted: { least: 200 } },
  ]
}
