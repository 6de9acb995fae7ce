import { rm } from 'node:fs/promises'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type {
  AssetDetail,
  BulkChange,
  Effect,
  Fit,
  MendPlan,
  Project,
  ProjectWaiver,
  Revision,
  Rulebook,
  RulebookReply,
  SoundingReply,
} from '@stern-gate/contract'
import { defaultRulebook } from '@stern-gate/core'
import { crateFiles, type CrateOptions } from '@stern-gate/core/fixtures'
import { judgeEnded } from '../src/judging/givenWaivers'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>
let project = ''
const crates: [name: string, more: CrateOptions][] = [
  ['KIT_Box', { grid: 4 }],
  ['KIT_Keg', { grid: 8, slivers: 2 }],
  ['KIT_Tub', { grid: 12, green: 'down' }],
  ['KIT_Jar', { grid: 16, unwelded: true }],
  ['KIT_Can', { grid: 20 }],
  ['KIT_Pot', { grid: 24 }],
]
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
  for (const [name, more] of crates)
    await api.deliver(
      project,
      await crateFiles({ name, textureName: name, hull: false, textureSize: [64, 64], ...more }),
    )
  await settled()
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const settled = () =>
  api.waitFor(
    () => api.assets(project),
    (rows) => rows.length === crates.length && rows.every((r) => r.state === 'judged'),
  )
const at = (path: string): string => `/projects/${project}${path}`
const rulebook = async (): Promise<RulebookReply> =>
  (await api.call<RulebookReply>('GET', at('/rulebook'))).body
const idOf = async (name: string): Promise<string> =>
  (await api.assets(project)).find((r) => r.name === name)!.id
const save = (body: { rulebook: unknown; revision: number; note?: string }) =>
  api.call<Project & { fault?: { code: string; why: string } }>('PUT', at('/rulebook'), body)
const changed = (change: (book: Rulebook) => void, book: Rulebook): Rulebook => {
  const copy = structuredClone(book)
  change(copy)
  return copy
}

describe('the rulebook', () => {
  it('comes with every rule, its options, and how many assets it speaks of', async () => {
    const { revision, rules, found, rulebook: book } = await rulebook()
    expect([revision, book.name]).toEqual([1, 'default'])
    const budget = rules.find((r) => r.id === 'mesh/triangle-budget')!
    expect(budget).toMatchObject({ station: 'mesh', level: 'caution', sounding: 'class' })
    expect(budget.fields).toEqual([expect.objectContaining({ name: 'factor', kind: 'number', default: 1 })])
    expect(rules.find((r) => r.id === 'names/meaningless')!.fields[0]).toMatchObject({
      name: 'words',
      kind: 'list',
    })
    expect(found['names/pattern']).toBe(crates.length)
    expect(found['colour/normal-green']).toBe(1)
  })
  it('sounds what a rule measures, of passing things too, by the classes of a draft', async () => {
    const ask = async (body: object): Promise<SoundingReply> =>
      (await api.call<SoundingReply>('POST', at('/rulebook/sounding'), body)).body
    const all = await ask({ rule: 'mesh/triangle-budget', class: 'prop' })
    expect(all.values.map((v) => v.value)).toEqual([192, 768 + 2, 1728, 3072, 4800, 6912])
    expect((await ask({ rule: 'mesh/triangle-budget', class: 'vessel' })).values).toEqual([])
    const draft = changed((b) => {
      b.classes['vessel']!.folders = ['props']
      b.classes['prop']!.folders = []
    }, defaultRulebook)
    expect(
      (await ask({ rule: 'mesh/triangle-budget', class: 'vessel', rulebook: draft })).values,
    ).toHaveLength(6)
    expect((await api.call('POST', at('/rulebook/sounding'), { rule: 'no/such' })).status).toBe(404)
  })
  it('says what a draft would do before it is kept, and keeps nothing', async () => {
    const draft = changed(
      (b) => {
        b.rules['names/pattern'] = { level: 'stop' }
      },
      (await rulebook()).rulebook,
    )
    const { body } = await api.call<Effect>('POST', at('/rulebook/effect'), { rulebook: draft })
    // Some are held already: one by its green, all of the class by what they lack
    const now = await api.assets(project)
    const clear = now.filter((r) => r.verdict === 'clear').length
    expect(body).toMatchObject({ assets: crates.length, held: clear, clear: 0 })
    expect(body.differences).toEqual([expect.stringMatching(/level: default → stop$/)])
    expect(body.changed.every((c) => c.words.includes('names/pattern'))).toBe(true)
    expect((await rulebook()).revision).toBe(1)
    const same = await api.call<Effect>('POST', at('/rulebook/effect'), {
      rulebook: (await rulebook()).rulebook,
    })
    expect(same.body).toMatchObject({ held: 0, clear: 0, more: 0, fewer: 0, changed: [] })
  })
  it('is refused with its place where it is none', async () => {
    for (const [broken, part] of [
      [changed((b) => void (b.patterns.mesh = '{family'), defaultRulebook), '{family'],
      [{ ...defaultRulebook, tides: 1 }, ''],
      [
        changed((b) => void (b.rules['uvs/overlap'] = { options: { share: 7 } }), defaultRulebook),
        'rules.uvs/overlap',
      ],
    ] as const) {
      const { status, body } = await save({ rulebook: broken, revision: 1 })
      expect(status).toBe(422)
      expect((body as unknown as { fault: { where: { part: string } } }).fault.where.part).toBe(part)
    }
    const file = await api.call<{ rulebook: Rulebook | null; fault: { why: string } | null }>(
      'POST',
      at('/rulebook/file'),
      {
        text: JSON.stringify({ extends: 'relaxed', green: 'sideways' }),
      },
    )
    expect(file.body).toMatchObject({ rulebook: null, fault: { why: expect.stringContaining('green') } })
    const good = await api.call<{ rulebook: Rulebook }>('POST', at('/rulebook/file'), {
      text: JSON.stringify({ extends: 'relaxed', green: 'down' }),
    })
    expect(good.body.rulebook).toMatchObject({ name: 'relaxed', green: 'down' })
    const schema = await api.call<{ properties: Record<string, unknown> }>('GET', '/schemas/rulebook')
    expect(Object.keys(schema.body.properties)).toEqual(
      expect.arrayContaining(['extends', 'waivers', 'rules', '$schema']),
    )
    // A part of a rulebook will do, and what it holds is whole
    expect(schema.body).not.toHaveProperty('required')
    expect((await api.call('GET', '/schemas/nothing')).status).toBe(404)
    const torn = await api.call<{ fault: { why: string } }>('POST', at('/rulebook/file'), {
      text: '{"green": ',
    })
    expect(torn.body.fault.why).toContain('It is no JSON')
  })
  it('is fitted to the library, saved as a revision, and judges anew what it changes', async () => {
    const fit = (await api.call<Fit>('POST', at('/fit'), { assets: null })).body
    expect(fit.assets).toBe(crates.length)
    expect(fit.proposals.find((p) => p.id === 'patterns.mesh')).toMatchObject({ fits: 6, of: 6, misfits: [] })
    const one = (await api.call<Fit>('POST', at('/fit'), { assets: [await idOf('KIT_Box')] })).body
    expect(one.assets).toBe(1)
    const { rulebook: book, revision } = await rulebook()
    const next = changed((b) => {
      for (const p of fit.proposals.filter((p) => p.topic === 'names'))
        for (const { path, value } of p.change) (b.patterns as Record<string, unknown>)[path[1]!] = value
      b.rules['collision/missing'] = { enabled: false }
      b.rules['lods/missing'] = { levelByClass: { prop: 'note' } }
    }, book)
    const saved = await save({ rulebook: next, revision, note: 'fitted' })
    expect(saved.body).toMatchObject({ rulebookRevision: 2 })
    await settled()
    const rows = await api.assets(project)
    expect(rows.filter((r) => r.verdict === 'held').map((r) => r.name)).toEqual(['KIT_Tub'])
    expect((await rulebook()).found['names/pattern']).toBeUndefined()
    // Somebody who still has the first one in hand is told
    expect((await save({ rulebook: book, revision: 1 })).status).toBe(409)
    const revisions = (await api.call<Revision[]>('GET', at('/rulebook/revisions'))).body
    expect(revisions.map((r) => [r.number, r.note])).toEqual([
      [2, 'fitted'],
      [1, 'the default rulebook'],
    ])
    expect(revisions[0]!.changes.some((c) => /off|enabled: default → false/.test(c))).toBe(true)
    const first = await api.call<{ rulebook: Rulebook }>('GET', at('/rulebook/revisions/1'))
    expect(first.body.rulebook.rules).toEqual({})
    expect((await api.call('GET', at('/rulebook/revisions/9'))).status).toBe(404)
    expect((await api.call('GET', at('/rulebook/revisions/x'))).status).toBe(404)
  })
})

describe('what is safe', () => {
  const plan = async (body: object): Promise<MendPlan> =>
    (await api.call<MendPlan>('POST', at('/mend-plan'), body)).body
  it('is planned by remedy, done as one act and undone', async () => {
    const all = await plan({ assets: null })
    expect(all.remedies.map((r) => [r.remedy, r.assets])).toEqual([
      ['mesh/drop-degenerate', 1],
      ['mesh/weld', 1],
    ])
    expect((await plan({ assets: [await idOf('KIT_Keg')] })).remedies).toHaveLength(1)
    const { status, body } = await api.call<BulkChange>('POST', at('/mend'), {
      assets: null,
      without: ['mesh/weld'],
    })
    expect([status, body.remedyTitle, body.assets, body.steps]).toEqual([201, 'What is safe', 1, 1])
    await settled()
    expect((await plan({ assets: null })).remedies.map((r) => r.remedy)).toEqual(['mesh/weld'])
    const keg = (await api.call<AssetDetail>('GET', `/assets/${await idOf('KIT_Keg')}`)).body
    expect(keg.recipe.steps).toMatchObject([
      { remedy: 'mesh/drop-degenerate', why: 'mesh/degenerate', on: true },
    ])
    expect(keg.output!.findings.some((f) => f.rule === 'mesh/degenerate')).toBe(false)
    await api.call('POST', `/changes/${body.id}/undo`, {})
    await settled()
    expect((await plan({ assets: null })).remedies).toHaveLength(2)
    const none = await api.call('POST', at('/mend'), { assets: [await idOf('KIT_Box')] })
    expect(none.status).toBe(409)
  })
})

describe('waivers', () => {
  const list = async (): Promise<ProjectWaiver[]> =>
    (await api.call<ProjectWaiver[]>('GET', at('/waivers'))).body
  const rowOf = async (name: string) => (await api.assets(project)).find((r) => r.name === name)!
  const greenOf = async () =>
    (await api.call<AssetDetail>('GET', `/assets/${await idOf('KIT_Tub')}`)).body.source.findings.find(
      (f) => f.rule === 'colour/normal-green',
    )!
  it('accept a finding, count it apart, and are taken back', async () => {
    const tub = await idOf('KIT_Tub'),
      finding = await greenOf()
    const given = await api.call<ProjectWaiver[]>('POST', at('/waivers'), {
      findings: [{ asset: tub, fingerprint: finding.fingerprint }],
      reason: 'seen from far only',
    })
    expect(given.status).toBe(201)
    await settled()
    expect(await rowOf('KIT_Tub')).toMatchObject({ verdict: 'clear', stops: 0, waived: 1 })
    expect(await list()).toMatchObject([
      {
        assetName: 'KIT_Tub',
        state: 'holds',
        waiver: { rule: 'colour/normal-green', until: null, value: finding.value },
      },
    ])
    expect((await greenOf()).waived).toMatchObject({ reason: 'seen from far only', fallen: null })
    expect((await api.call('DELETE', `/waivers/${given.body[0]!.id}`)).body).toEqual({ taken: 1 })
    await settled()
    expect(await rowOf('KIT_Tub')).toMatchObject({ verdict: 'held', waived: 0 })
  })
  it('end with their day: the sweep judges what they accepted once more', async () => {
    const given = await api.call<ProjectWaiver[]>('POST', at('/waivers'), {
      rule: 'colour/normal-green',
      scope: { kind: 'class', class: 'prop' },
      reason: 'until the light is done',
      until: new Date().toISOString().slice(0, 10),
    })
    await settled()
    expect(await rowOf('KIT_Tub')).toMatchObject({ verdict: 'clear', waived: 1 })
    const { db } = server.running.services.connection
    // Its day was yesterday
    await db.execute(sql`update waivers set until = '2020-01-01' where id = ${given.body[0]!.id}`)
    expect(await judgeEnded(server.running.services, new Date().toISOString().slice(0, 10))).toBe(1)
    expect(await judgeEnded(server.running.services, new Date().toISOString().slice(0, 10))).toBe(0)
    await settled()
    expect(await rowOf('KIT_Tub')).toMatchObject({ verdict: 'held', waived: 0 })
    expect(await list()).toMatchObject([{ state: 'ended' }])
    expect((await greenOf()).waived).toMatchObject({ fallen: 'ended' })
    await api.call('DELETE', `/waivers/${given.body[0]!.id}`)
  })
  it('of many findings are one act, and refuse what is not there', async () => {
    const findings = await Promise.all(
      ['KIT_Keg', 'KIT_Jar'].map(async (name) => {
        const asset = await idOf(name)
        const detail = (await api.call<AssetDetail>('GET', `/assets/${asset}`)).body
        return { asset, fingerprint: detail.source.findings[0]!.fingerprint }
      }),
    )
    const given = await api.call<ProjectWaiver[]>('POST', at('/waivers'), { findings, reason: 'as it is' })
    expect(new Set(given.body.map((w) => w.act)).size).toBe(1)
    expect((await api.call('DELETE', `/waivers/${given.body[0]!.id}?act=true`)).body).toEqual({
      taken: given.body.length,
    })
    expect(await list()).toEqual([])
    const ofRule = await api.call<ProjectWaiver[]>('POST', at('/waivers'), {
      assets: (await api.assets(project)).map((r) => r.id),
      rule: 'mesh/degenerate',
      reason: 'too small to see',
    })
    expect(ofRule.body.map((w) => [w.waiver.rule, w.assetName])).toEqual([['mesh/degenerate', 'KIT_Keg']])
    await settled()
    expect(await rowOf('KIT_Keg')).toMatchObject({ waived: 1 })
    await api.call('DELETE', `/waivers/${ofRule.body[0]!.id}`)
    expect(
      (
        await api.call('POST', at('/waivers'), {
          assets: [await idOf('KIT_Box')],
          rule: 'no/such',
          reason: 'x',
        })
      ).status,
    ).toBe(400)
    const gone = { asset: findings[0]!.asset, fingerprint: 'of nothing' }
    expect((await api.call('POST', at('/waivers'), { findings: [gone], reason: 'x' })).status).toBe(409)
    expect((await api.call('POST', at('/waivers'), { findings, reason: ' ' })).status).toBe(400)
    expect(
      (
        await api.call('POST', at('/waivers'), {
          rule: 'no/such',
          scope: { kind: 'class', class: 'prop' },
          reason: 'x',
        })
      ).status,
    ).toBe(400)
  })
})
