import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { optionsOfOffer, type Finding, type Recipe, type Rulebook } from '@stern-gate/contract'
import { crateFiles, type FixtureFiles } from '../fixtures/crateFixture'
import { measureFixture, subjectsFrom, subjectsOf } from '../fixtures/measureFixture'
import { factsThatChanged, flatFacts } from '../fixtures/flatFacts'
import { fixturePorts } from '../fixtures/pngFixture'
import { ruleCases, type RuleCase } from '../fixtures/ruleCases'
import { judge } from '../judge/judge'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeWork } from '../recipe/writeWork'
import { remedies } from '../remedies/index'
import { openWork } from '../remedies/work'
import type { Rule } from './defineRule'
import { rules } from './index'

const rulebookFor = (rule: Rule, c: RuleCase): Rulebook => ({
  ...defaultRulebook,
  rules: { [rule.id]: { options: c.options ?? {} } },
})

/** Many rules look at the same crate; it is made and measured once. */
const crates = new Map<string, Promise<FixtureFiles>>(),
  measurements = new WeakMap<FixtureFiles, ReturnType<typeof measureFixture>>()
const crateOnce = (options: RuleCase['crate']): Promise<FixtureFiles> => {
  const key = JSON.stringify(options),
    known = crates.get(key) ?? crateFiles(options)
  crates.set(key, known)
  return known
}
const measuredOnce = (files: FixtureFiles): ReturnType<typeof measureFixture> => {
  const known = measurements.get(files) ?? measureFixture(files)
  measurements.set(files, known)
  return known
}

async function findingsOf(rule: Rule, c: RuleCase, files: FixtureFiles): Promise<Finding[]> {
  const subjects = subjectsFrom(await measuredOnce(files), { ...c.settings, rulebook: rulebookFor(rule, c) })
  return subjects.flatMap((subject) => judge(subject, [rule]).findings)
}

/** Applies the first remedy of every finding to the files and gives what comes out. */
async function mended(
  files: FixtureFiles,
  findings: Finding[],
): Promise<{ files: FixtureFiles; steps: string[] }> {
  const main = Object.keys(files).find((p) => p.endsWith('.glb'))!
  const sources = Object.entries(files).map(([path, bytes]) => ({
    path,
    part: path.endsWith('.glb') ? ('mesh' as const) : ('texture' as const),
    bytes,
  }))
  const work = await openWork(main, 'mesh', main, sources)
  if (!work.ok) throw new Error(work.fault.why)
  const recipe: Recipe = {
    steps: findings
      .flatMap((f) =>
        optionsOfOffer(f.remedies[0]!).map((options) => ({
          rule: f.rule,
          remedy: f.remedies[0]!.remedy,
          options,
        })),
      )
      .map(({ rule, ...step }, i) => ({ id: String(i), on: true, why: rule, ...step })),
  }
  const applied = await applyRecipe(work.value, recipe, fixturePorts)
  if (!applied.ok) throw new Error(applied.fault.why)
  // Renaming the asset takes its hull along: that step then has nothing left to do
  expect(applied.value.some((result) => result.changed)).toBe(true)
  return {
    files: Object.fromEntries((await writeWork(work.value)).map((f) => [f.path, f.bytes])),
    steps: applied.value.map(
      ({ remedy, changed, said }) => `${remedy}: ${changed ? said : `nothing, ${said}`}`,
    ),
  }
}

/** All that a finding says, with figures that rounding of another machine does not touch. */
const whatItSays = ({ level, message, text, data, place, also, gauge, remedies, value }: Finding): unknown =>
  JSON.parse(
    JSON.stringify(
      { message, level, text, data, place, also, gauge, value, offers: remedies },
      (_, v: unknown) => (typeof v === 'number' && !Number.isInteger(v) ? Number(v.toPrecision(4)) : v),
    ),
  )

describe.each(rules.map((rule) => [rule.id, rule] as const))('%s', (id, rule) => {
  const cases = ruleCases[id],
    said = new Map<string, unknown>(),
    changed = new Map<string, unknown>()

  it('has clean and broken cases, none of them twice', () => {
    expect(cases?.clean.length).toBeGreaterThan(0)
    expect(cases?.broken.length).toBeGreaterThan(0)
    const all = [...cases!.clean, ...cases!.broken].map((c) =>
      JSON.stringify([c.crate, c.settings, c.options]),
    )
    expect(new Set(all).size).toBe(all.length)
  })

  it('stands at the path of its id, with options that have defaults and remedies that exist', () => {
    expect(id.startsWith(`${rule.station}/`)).toBe(true)
    expect(rule.options.safeParse({}).success).toBe(true)
    expect(rule.meta.why.split(' ').length).toBeGreaterThan(6)
  })

  it.each(cases!.clean.map((c) => [c.words, c] as const))('clean: %s', async (_, c) => {
    expect(await findingsOf(rule, c, await crateOnce(c.crate))).toEqual([])
  })

  it.each(cases!.broken.map((c) => [c.words, c] as const))('broken: %s', async (_, c) => {
    const files = await crateOnce(c.crate)
    const before = JSON.stringify(Object.entries(files).map(([p, b]) => [p, b.length, b.slice(0, 64).join()]))
    const findings = await findingsOf(rule, c, files)
    expect(findings.map((f) => f.message)).toEqual(c.says)
    expect(JSON.stringify(Object.entries(files).map(([p, b]) => [p, b.length, b.slice(0, 64).join()]))).toBe(
      before,
    )
    for (const finding of findings) {
      expect(finding.fingerprint).toMatch(/^[0-9a-z]{11}$/)
      expect(finding.text).not.toMatch(/[{}]|undefined|NaN/)
      expect(finding.place.kind).toBeTruthy()
      for (const offer of finding.remedies) {
        const remedy = remedies.find((r) => r.id === offer.remedy)
        expect(remedy?.options.safeParse(offer.options).success).toBe(true)
        expect(offer.label).not.toMatch(/[{}]|undefined/)
      }
    }
    said.set(c.words, findings.map(whatItSays))
    if (!c.mends) return
    const after = await mended(files, findings)
    expect(await findingsOf(rule, c, after.files)).toEqual([])
    const [was, is] = [await measuredOnce(files), await measuredOnce(after.files)].map(flatFacts) as [
      ReturnType<typeof flatFacts>,
      ReturnType<typeof flatFacts>,
    ]
    changed.set(c.words, { steps: after.steps, facts: factsThatChanged(was, is) })
  })

  // Looked over by a person when it is written; from then on every figure of it is held
  it('says level, data, place, gauge and offers as they were looked over', async () => {
    expect(said.size).toBe(cases!.broken.length)
    const file = join(import.meta.dirname, '../fixtures/cases/said', `${id.replace('/', '-')}.json`)
    await expect(`${JSON.stringify(Object.fromEntries(said), null, 2)}\n`).toMatchFileSnapshot(file)
  })

  // The same for what its remedies do: which figures of the files change, from what to what
  it.runIf(cases!.broken.some((c) => c.mends))('is mended by what changes these figures alone', async () => {
    const file = join(import.meta.dirname, '../fixtures/cases/mended', `${id.replace('/', '-')}.json`)
    await expect(`${JSON.stringify(Object.fromEntries(changed), null, 2)}\n`).toMatchFileSnapshot(file)
  })
})

it('the index and the folders hold the same rules', () => {
  const folder = import.meta.dirname
  const files = readdirSync(folder, { withFileTypes: true })
    .filter((e) => e.isDirectory())
    .flatMap((station) =>
      readdirSync(join(folder, station.name))
        .filter((f) => !f.endsWith('.test.ts'))
        .map(
          (f) => `${station.name}/${f.replace('.ts', '').replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`)}`,
        ),
    )
  expect(rules.map((r) => r.id)).toEqual(files.sort())
  expect(Object.keys(ruleCases).sort()).toEqual(files)
})

it('the clean crate is clear of everything', async () => {
  const [subject] = await subjectsOf(await crateFiles({ textureSize: [512, 512] }))
  const judged = judge(subject!)
  expect(judged.findings).toEqual([])
  expect(judged.verdict).toBe('clear')
})
