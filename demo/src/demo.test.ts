import { createHash } from 'node:crypto'
import { beforeAll, describe, expect, it } from 'vitest'
import { judge, rules } from '@stern-gate/core'
import { subjectsOf, type FixtureFiles } from '@stern-gate/core/fixtures'
import type { Finding } from '@stern-gate/contract'
import { demoAssets, makeAsset, makeDeliveries, plantedFaults, type DemoDelivery } from './index'

let deliveries: DemoDelivery[], files: FixtureFiles, found: Map<string, Finding[]>
beforeAll(async () => {
  deliveries = await makeDeliveries()
  // The first version of every asset
  files = Object.fromEntries(
    deliveries
      .slice(0, 2)
      .flatMap((d) => d.files)
      .map((f) => [f.path, f.bytes]),
  )
  found = new Map((await subjectsOf(files)).map((s) => [s.name, judge(s).findings]))
}, 180_000)

describe('the demo', () => {
  it('has just the assets that are planned, the bollard clear', () => {
    expect([...found.keys()].sort()).toEqual(demoAssets.map((a) => a.name).sort())
    expect(found.get('harbour_bollard_a')).toEqual([])
  })
  it.each(demoAssets.map((a) => a.name))(
    '%s: every planted fault whose rule is there is found, nothing else is',
    (name) => {
      const wanted = plantedFaults.filter((f) => f.asset === name && rules.some((r) => r.id === f.rule))
      const counts = new Map<string, number>()
      // One finding may speak of several places
      for (const { rule, also } of found.get(name)!)
        counts.set(rule, (counts.get(rule) ?? 0) + 1 + also.length)
      expect(Object.fromEntries(counts)).toEqual(Object.fromEntries(wanted.map((f) => [f.rule, f.count])))
      for (const fault of wanted.filter((f) => /[._]/.test(f.place)))
        expect(found.get(name)!.some((f) => JSON.stringify(f.place).includes(fault.place))).toBe(true)
    },
  )
  it('says of each fault truly whether its rule is there yet', () => {
    for (const fault of plantedFaults)
      expect([fault.rule, rules.some((r) => r.id === fault.rule)]).toEqual([fault.rule, fault.from === 'now'])
  })
  it('makes the same bytes each time', async () => {
    const digest = (list: { path: string; bytes: Uint8Array }[]) =>
      list.map((f) => [f.path, createHash('sha256').update(f.bytes).digest('hex')])
    const plan = demoAssets.find((a) => a.name === 'harbour_lantern_a')!
    expect(digest(await makeAsset(plan))).toEqual(
      digest(
        Object.entries(files)
          .filter(([path]) => path.includes('lantern'))
          .map(([path, bytes]) => ({ path, bytes })),
      ),
    )
  }, 60_000)
  it('comes in four deliveries, the third with a lantern that changed and a damaged file', async () => {
    expect(deliveries.map((d) => d.daysAgo)).toEqual([6, 2, 0, 0])
    const again = Object.fromEntries(
      deliveries[2]!.files.filter((f) => f.path.includes('lantern')).map((f) => [f.path, f.bytes]),
    )
    const [subject] = await subjectsOf(again)
    expect(subject!.mesh!.slots!.map((s) => s.name)).toEqual(['lantern-metal', 'lantern-glass'])
    expect(judge(subject!).findings.map((f) => f.rule)).toContain('scale/pivot')
  }, 120_000)
  it('stays small', () => {
    expect(Object.values(files).reduce((sum, bytes) => sum + bytes.length, 0)).toBeLessThan(14_000_000)
  })
})
