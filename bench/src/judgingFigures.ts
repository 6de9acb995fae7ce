import { assembleAssets, buildSubject, defaultRulebook, judge, type AssetDraft, type MeasuredFile } from '@stern-gate/core'
import { crateFiles, measureFixture } from '@stern-gate/core/fixtures'
import { median, once } from './clock'
import type { Figure } from './figure'

const ASSETS = 10_000, BATCH = 500

/** Judging from stored facts: 10,000 assets, each with facts and names of its own, and against measuring the same. */
export async function judgingFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell('10,000 assets judged')
  const files = await crateFiles({ grid: 20, textureSize: [512, 512] })
  const measuring = await median(3, () => measureFixture(files))
  const stored = JSON.stringify(await measureFixture(files))
  let all = 0
  // A batch that is not counted goes first; reading the stored text is not judging
  for (let from = -BATCH; from < ASSETS; from += BATCH) {
    const library = Array.from({ length: BATCH }, (_, k) => namedCopy(stored, from + k + BATCH))
    const time = await once(() => library.forEach(judgeOne))
    if (from >= 0) all += time
  }
  return [
    { what: '10,000 assets (a crate with three textures each) judged from facts, in seconds', measured: `${all.toFixed(0)} ms`, ratio: all / 1000, wanted: { most: 1 } },
    { what: 'Measuring one of them against judging it', measured: `${measuring.toFixed(1)} ms against ${(all / ASSETS).toFixed(3)} ms`, ratio: measuring / (all / ASSETS), wanted: { least: 200 } },
  ]
}

/** Grouped when it arrived, judged now. */
interface StoredAsset { draft: AssetDraft; measured: MeasuredFile[] }

/** A copy of the measured crate under a name of its own, textures, slots and nodes included. */
function namedCopy(stored: string, i: number): StoredAsset {
  const measured = JSON.parse(stored.replaceAll('crate', `crate${i}`)) as MeasuredFile[]
  return { draft: assembleAssets(measured, defaultRulebook)[0]!, measured }
}

const taken = new Set<string>()

const judgeOne = ({ draft, measured }: StoredAsset): unknown =>
  judge(buildSubject(draft, measured, { rulebook: defaultRulebook, targetName: 'desk', classChoice: null, taken, family: 'harbour' }))
