import { decodeImage, encodePng } from '@stern-gate/engine'
import { buildSubject, assembleAssets, defaultRulebook, judge, measureTexture, readTextureHeader } from '@stern-gate/core'
import { crateFiles, measureFixture, pixelsOf } from '@stern-gate/core/fixtures'

/** Median of several runs, in milliseconds. */
async function median(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const started = performance.now()
    await work()
    times.push(performance.now() - started)
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!
}

const lines: string[] = [`node ${process.version}, ${process.arch}`]

// A texture: header, decoding and all measures against decoding alone
const png = await encodePng(pixelsOf(2048, 2048, 3, (x, y) => [128 + 40 * Math.sin(x / 9), 128 + 40 * Math.sin(y / 7), 240].map(Math.round)))
const header = readTextureHeader(png)
if (!header.ok) throw new Error(header.fault.why)
const decoding = await median(5, () => decodeImage(png, header.value))
const checking = await median(5, async () => measureTexture(header.value, await decodeImage(png, header.value)))
lines.push(`2048² PNG: measured in ${checking.toFixed(0)} ms, ${(checking / decoding).toFixed(2)} times decoding alone`)

// Judging from stored facts against measuring
const files = await crateFiles({ grid: 20, textureSize: [512, 512] })
const measuring = await median(3, () => measureFixture(files))
const measured = await measureFixture(files)
const [draft] = assembleAssets(measured, defaultRulebook)
const judging = await median(200, () => judge(buildSubject(draft!, measured, { rulebook: defaultRulebook, targetName: 'desk', classChoice: null, taken: new Set(), family: 'harbour' })))
lines.push(`One crate: judged in ${judging.toFixed(3)} ms, ${(measuring / judging).toFixed(0)} times faster than measured`)

process.stdout.write(`${lines.join('\n')}\n`)
