import {
  fitNames,
  assembleAssets,
  buildSubject,
  defaultRulebook,
  judge,
  type AssetDraft,
  type MeasuredFile,
} from '@stern-gate/core'
import { crateFiles, measureFixture } from '@stern-gate/core/fixtures'
import { median, middle, once } from './clock'
import type { Figure } from './figure'

const ASSETS = 10_000,
  ROUND = 500,
  BATCH = 20

/**
 * Judging from stored facts: 10,000 assets, each with facts and names of its own, and against measuring the
 * same.
 */
export async function judgingFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell('10,000 assets judged')
  const files = await crateFiles({ grid: 20, textureSize: [512, 512] })
  const measuring = await median(3, () => measureFixture(files))
  const stored = JSON.stringify(await measureFixture(files))
  const times: number[] = []
  // A round that is not counted goes first
  for (let from = -ROUND; from < ASSETS; from += ROUND) {
    const time = await roundOf(stored, from + ROUND)
    if (from >= 0) times.push(time)
  }
  // The middle round stands for all: one that the machine interrupted says nothing about judging
  const all = middle(times) * (ASSETS / ROUND)
  return [
    {
      what:
        '10,000 assets (a crate with three textures each) judged from facts, in seconds; the middle ' +
        'one of twenty rounds, times twenty',
      measured: `${all.toFixed(0)} ms`,
      ratio: all / 1000,
      wanted: { most: 1 },
    },
    {
      what: 'Measuring one of them against judging it',
      measured: `${measuring.toFixed(1)} ms against ${(all / ASSETS).toFixed(3)} ms`,
      ratio: measuring / (all / ASSETS),
      wanted: { least: 200 },
    },
    await fittingFigure(tell),
  ]
}

/** A pattern found in as many names. */
async function fittingFigure(tell: (line: string) => void): Promise<Figure> {
  tell('10,000 names fitted')
  const nouns = ['Crate', 'Barrel', 'Lamp', 'Anchor', 'Buoy', 'Crane', 'Pier', 'Mast', 'Keg', 'Oar']
  const names = Array.from({ length: ASSETS }, (_, n) =>
    n % 10 === 3
      ? `untitled ${n} copy`
      : `KIT_${nouns[n % 10]!}${nouns[Math.floor(n / 10) % 10]!}_${String(n).padStart(5, '0')}_${'DNMR'[n % 4]!}`,
  )
  const time = await median(5, () => Promise.resolve(fitNames(names, 'texture', () => false)))
  return {
    what: '10,000 names, a stray in ten: the pattern that they are made by, in seconds',
    measured: `${time.toFixed(0)} ms`,
    ratio: time / 1000,
    wanted: { most: 2 },
  }
}

/**
 * Milliseconds that a round of assets takes. Reading the stored text is not judging; as in the server, it is
 * read shortly before.
 */
async function roundOf(stored: string, from: number): Promise<number> {
  let time = 0
  for (let at = from; at < from + ROUND; at += BATCH) {
    const library = Array.from({ length: BATCH }, (_, k) => namedCopy(stored, at + k))
    time += await once(() => library.forEach(judgeOne))
  }
  return time
}

/** Grouped when it arrived, judged now. */
interface StoredAsset {
  draft: AssetDraft
  measured: MeasuredFile[]
}

/** A copy of the measured crate under a name of its own, textures, slots and nodes included. */
function namedCopy(stored: string, i: number): StoredAsset {
  const measured = JSON.parse(stored.replaceAll('crate', `crate${i}`)) as MeasuredFile[]
  return { draft: assembleAssets(measured, defaultRulebook)[0]!, measured }
}

const taken = new Set<string>()

const judgeOne = ({ draft, measured }: StoredAsset): unknown =>
  judge(
    buildSubject(draft, measured, {
      rulebook: defaultRulebook,
      targetName: 'desk',
      classChoice: null,
      taken,
      family: 'harbour',
    }),
  )
