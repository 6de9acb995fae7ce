import { rm } from 'node:fs/promises'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, Delivery, IntakePreset, Project, Recipe } from '@stern-gate/contract'
import { crateFiles, type CrateOptions } from '@stern-gate/core/fixtures'
import { assembleDeliveryJob } from '../src/jobs/assembleDeliveryJob'
import { getRecipe, keptHistory, saveRecipe } from '../src/store/assets'
import { findJudgeables, saveJudgements, type JudgedVersion } from '../src/store/judgements'
import { findProject } from '../src/store/projects'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const crate = (more: CrateOptions = {}) => crateFiles({ textureSize: [512, 512], ...more })
const judged = async (project: string) =>
  (
    await api.waitFor(
      () => api.assets(project),
      (rows) => rows.length > 0 && rows.every((r) => r.state === 'judged'),
    )
  )[0]!
const step = (remedy: string, options: Recipe['steps'][number]['options']): Recipe['steps'][number] => ({
  id: remedy,
  remedy,
  options,
  on: true,
  why: 'test',
})

describe('a judgement', () => {
  it('by a recipe that is no longer the newest is not kept', async () => {
    const project = await api.project(),
      { db } = server.running.services.connection
    await api.deliver(project, await crate())
    const { id } = await judged(project)
    const [old] = await findJudgeables(db, [id])
    const now = await getRecipe(db, id)
    await db.transaction((tx) =>
      saveRecipe(tx, id, now.revision, { steps: [step('scale/rescale', { factor: 2 })] }, []),
    )
    const verdict: JudgedVersion = {
      shownName: 'stale',
      className: 'prop',
      tally: old!.version.tally as JudgedVersion['tally'],
      verdict: 'clear',
      headline: 'stale',
      names: [],
      thumbnail: null,
      outputKey: null,
      outputFault: null,
      findings: [],
    }
    const of = (await findProject(db, old!.asset.projectId))!
    const kept = await db.transaction((tx) => saveJudgements(tx, [{ of: old!, judged: verdict }], of))
    expect(
      await db.transaction((tx) =>
        saveJudgements(tx, [{ of: old!, judged: verdict }], { ...of, rulebookRevision: 99 }),
      ),
    ).toEqual([])
    expect(kept).toEqual([])
    const [fresh] = await findJudgeables(db, [id])
    expect(fresh!.version.headline).not.toBe('stale')
    const again = await db.transaction((tx) => saveJudgements(tx, [{ of: fresh!, judged: verdict }], of))
    expect(again).toEqual([id])
  })
})

describe('an intake', () => {
  it('chosen for a delivery leaves assets alone that a later one brought again', async () => {
    const project = await api.project()
    const first = await api.deliver(project, {
      ...(await crate()),
      ...(await crate({ name: 'harbour_keg_a', textureName: 'harbour_keg_a' })),
    })
    await api.deliver(project, await crate({ size: 2 }))
    const rows = await api.waitFor(
      () => api.assets(project),
      (all) => all.length === 2 && all.every((r) => r.state === 'judged'),
    )
    const of = (name: string) => rows.find((r) => r.name === name)!
    expect([of('harbour_crate_a').version, of('harbour_keg_a').version]).toEqual([2, 1])
    const preset = (
      await api.call<IntakePreset>('PUT', `/projects/${project}/intake-presets`, {
        name: 'centimetres',
        options: { unit: 'centimetre' },
      })
    ).body
    await api.call<Delivery>('PUT', `/deliveries/${first.id}/intake`, { preset: preset.name })
    expect((await api.asset(of('harbour_keg_a').id)).recipe.steps).toHaveLength(1)
    expect((await api.asset(of('harbour_crate_a').id)).recipe.steps).toEqual([])
  })
})

describe('the version before', () => {
  it('stood where its output stood, not its source', async () => {
    const project = await api.project()
    await api.deliver(project, await crate())
    const { id } = await judged(project)
    const { recipeRevision } = await api.asset(id)
    await api.call<AssetDetail>('PUT', `/assets/${id}/recipe`, {
      revision: recipeRevision,
      recipe: { steps: [step('scale/shift', { x: 5, y: 0, z: 0 })] },
    })
    await judged(project)
    // The same shape once more, with another slot name: both outputs stand at 5 m
    await api.deliver(project, await crate({ slotName: 'crate-oak' }))
    await api.waitFor(
      () => api.assets(project),
      (rows) => rows[0]!.version === 2 && rows[0]!.state === 'judged',
    )
    const detail = await api.asset(id)
    expect(detail.output.findings.map((f) => f.rule)).not.toContain('scale/moved-since-last-version')
    // The source stands 5 m from where the output of version 1 stood
    expect(
      detail.source.findings.find((f) => f.rule === 'scale/moved-since-last-version')?.value,
    ).toBeCloseTo(5, 5)
  })
})

describe('putting a delivery together', () => {
  it('is not done once it was cancelled, though its files are measured', async () => {
    const project = await api.project(),
      { db } = server.running.services.connection,
      assemble = assembleDeliveryJob(server.running.services),
      work = { signal: new AbortController().signal } as Parameters<typeof assemble>[1]
    const { id } = await api.deliver(project, await crate())
    const putTogetherAs = async (state: string): Promise<void> => {
      await db.execute(sql`delete from assets where project_id = ${project}`)
      await db.execute(sql`update deliveries set state = ${state} where id = ${id}`)
      await assemble({ delivery: id }, work)
    }
    for (const state of ['receiving', 'cancelled', 'done']) {
      await putTogetherAs(state)
      expect([state, await api.assets(project)]).toEqual([state, []])
    }
    await putTogetherAs('measuring')
    expect((await api.assets(project)).map((a) => a.name)).toEqual(['harbour_crate_a'])
  })
})

describe('a rulebook', () => {
  it('keeps what two people change at the same time', async () => {
    const project = await api.project()
    const set = (sizes: object) => api.call('PATCH', `/projects/${project}/sizes`, sizes)
    await Promise.all([set({ personHeight: 1.5 }), set({ gridStep: 0.25 }), set({ personHeight: 1.5 })])
    expect((await api.call<Project>('GET', `/projects/${project}`)).body).toMatchObject({
      personHeight: 1.5,
      gridStep: 0.25,
      rulebookRevision: 4,
    })
  })
})

describe('earlier recipes', () => {
  const of = (steps: number): Recipe => ({
    steps: Array.from({ length: steps }, (_, i) => ({ ...step('mesh/reorder', {}), id: String(i) })),
  })
  it('are kept fifty deep, and fewer of long ones, but always the last', () => {
    expect(keptHistory(Array.from({ length: 70 }, () => of(3)))).toHaveLength(50)
    const long = Array.from({ length: 9 }, (_, i) => of(9000 + i))
    expect(keptHistory(long)).toEqual(long.slice(-4))
    const longest = [of(1), of(60_000)]
    expect(keptHistory(longest)).toEqual(longest.slice(1))
    expect(keptHistory([])).toEqual([])
  })
})
