import { randomUUID } from 'node:crypto'
import {
  bad,
  counts,
  findingSchema,
  type Finding,
  type GiveWaivers,
  type ProjectWaiver,
  type WaiverScope,
} from '@stern-gate/contract'
import { rules } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import { findAsset } from '../store/assets'
import type { Queryable, Transaction } from '../store/database'
import { addEvents } from '../store/eventLog'
import { addJudging, addJudgingOfMany } from '../store/jobQueue'
import { markUnjudged } from '../store/versionStates'
import {
  assetNamesOf,
  findWaiver,
  insertWaivers,
  listAssetsWithRule,
  listFindingsOf,
  listWaivedFindings,
  listWaivers,
  noteWaiversChange,
  removeWaivers,
  takeEnded,
  waiverOf,
  type NewWaiver,
  type WaiverRow,
} from '../store/waivers'
import { FaultReply, notFound } from '../trouble/faultReply'

type WaiverServices = Pick<JobServices, 'connection'>
/** So few assets are judged one by one, before all that waits. */
const FEW = 20

/** Accepts findings, or all of a rule within a reach; what it touches is judged anew. */
export async function giveWaivers(
  { connection: { db } }: WaiverServices,
  projectId: string,
  given: Required<Pick<GiveWaivers, 'findings' | 'assets'>> & Omit<GiveWaivers, 'findings' | 'assets'>,
): Promise<WaiverRow[]> {
  const common = {
    projectId,
    act: randomUUID(),
    reason: given.reason,
    until: given.until ?? null,
    by: localPerson.name,
  }
  checkRule(given)
  const rows: NewWaiver[] = given.scope
    ? [{ ...common, ...reaching(given.rule, given.scope) }]
    : (await chosenFindings(db, projectId, given)).map(({ asset, finding, fingerprint, value }) => ({
        ...common,
        assetId: asset,
        rule: finding.rule,
        scope: { kind: 'finding', asset, fingerprint } satisfies WaiverScope,
        value,
      }))
  if (rows.length === 0)
    throw new FaultReply(
      bad(
        'request/conflict',
        'None of these findings is there any more.',
        'Look at the list again; it is newer now.',
      ).fault,
    )
  if (given.scope?.kind === 'asset' && (await findAsset(db, given.scope.asset))?.projectId !== projectId)
    throw notFound('asset')
  return db.transaction(async (tx) => {
    // Before any row that refers to an asset: judging takes the project first, too
    await noteWaiversChange(tx, projectId)
    const made = await insertWaivers(tx, rows)
    await judgeTouched(tx, projectId, made)
    return made
  })
}

/** Takes one waiver back, or all of its act; gives how many. */
export async function takeBack(
  { connection: { db } }: WaiverServices,
  id: string,
  act: boolean,
): Promise<number> {
  const row = await findWaiver(db, id)
  if (!row) throw notFound('waiver')
  return db.transaction(async (tx) => {
    await noteWaiversChange(tx, row.projectId)
    const gone = await removeWaivers(tx, row, act)
    await judgeTouched(tx, row.projectId, gone)
    return gone.length
  })
}

/** Has what ended waivers accepted judged once more; gives how many have ended. */
export async function judgeEnded({ connection: { db } }: WaiverServices, today: string): Promise<number> {
  const ended = await takeEnded(db, today)
  for (const project of new Set(ended.map((w) => w.projectId)))
    await db.transaction(async (tx) => {
      await noteWaiversChange(tx, project)
      await judgeTouched(
        tx,
        project,
        ended.filter((w) => w.projectId === project),
      )
    })
  return ended.length
}

/** All waivers of a project, with how each stands with the findings that are there now. */
export async function projectWaivers(
  { connection: { db } }: WaiverServices,
  projectId: string,
): Promise<ProjectWaiver[]> {
  const rows = await listWaivers(db, projectId),
    today = new Date().toISOString().slice(0, 10)
  const ruleIds = [...new Set(rows.map((r) => r.rule))]
  const waived = (await listWaivedFindings(db, projectId, ruleIds)).map((r) => ({
    asset: r.asset,
    finding: findingSchema.parse(r.body),
  }))
  const names = await assetNamesOf(db, [...new Set(rows.flatMap((r) => r.assetId ?? []))])
  return rows.map((row) => ({
    id: row.id,
    act: row.act,
    waiver: waiverOf(row),
    assetName: row.assetId === null ? null : (names.get(row.assetId) ?? null),
    state: stateOf(row, today, waived),
  }))
}

function stateOf(
  row: WaiverRow,
  today: string,
  waived: readonly { asset: string; finding: Finding }[],
): ProjectWaiver['state'] {
  if (row.until !== null && row.until < today) return 'ended'
  const { scope } = waiverOf(row)
  const own = waived.filter(
    ({ asset, finding }) =>
      finding.rule === row.rule &&
      finding.waived?.reason === row.reason &&
      (row.assetId === null || asset === row.assetId) &&
      (scope.kind !== 'finding' || [finding.fingerprint, ...finding.alike].includes(scope.fingerprint)),
  )
  if (own.length === 0) return 'unused'
  return own.every(({ finding }) => finding.waived?.fallen === 'worse') ? 'worse' : 'holds'
}

/** What is accepted by its rule names one that is there. */
function checkRule({ rule, scope, assets }: Pick<GiveWaivers, 'rule' | 'scope' | 'assets'>): void {
  if ((!scope && (assets ?? []).length === 0) || rules.some((r) => r.id === rule)) return
  throw new FaultReply(
    bad('request/invalid', 'rule: there is no such rule.', 'Name the rule whose findings are accepted.', {
      part: 'rule',
    }).fault,
  )
}

const reaching = (
  rule: string | undefined,
  scope: NonNullable<GiveWaivers['scope']>,
): Pick<NewWaiver, 'rule' | 'scope' | 'assetId' | 'value'> => {
  return { rule: rule!, scope, assetId: scope.kind === 'asset' ? scope.asset : null, value: null }
}

/** The findings that were chosen, as they are now; joined ones with each identity that they stand for. */
async function chosenFindings(
  db: Queryable,
  projectId: string,
  {
    findings: chosen,
    assets,
    rule,
  }: Pick<GiveWaivers, 'rule'> & Required<Pick<GiveWaivers, 'findings' | 'assets'>>,
): Promise<{ asset: string; finding: Finding; fingerprint: string; value: number | null }[]> {
  const wanted = new Set(chosen.map((c) => `${c.asset} ${c.fingerprint}`))
  const every = new Set(assets)
  const rows = await listFindingsOf(db, projectId, [...new Set([...chosen.map((c) => c.asset), ...assets])])
  return rows.flatMap(({ asset, body }) => {
    const finding = findingSchema.parse(body)
    const isChosen = every.has(asset)
      ? finding.rule === rule && counts(finding)
      : wanted.has(`${asset} ${finding.fingerprint}`)
    if (!isChosen) return []
    // What is said of further places may have another value there
    return [finding.fingerprint, ...finding.alike].map((fingerprint, i) => ({
      asset,
      finding,
      fingerprint,
      value: i === 0 ? finding.value : null,
    }))
  })
}

/** Has those assets judged anew whose findings waivers may be for. */
async function judgeTouched(tx: Transaction, projectId: string, given: readonly WaiverRow[]): Promise<void> {
  const ids = new Set(given.flatMap((w) => w.assetId ?? []))
  for (const rule of new Set(given.filter((w) => w.assetId === null).map((w) => w.rule)))
    for (const id of await listAssetsWithRule(tx, projectId, rule)) ids.add(id)
  const touched = [...ids]
  await markUnjudged(tx, touched)
  await (touched.length <= FEW
    ? addJudging(tx, touched, { soon: true })
    : addJudgingOfMany(tx, projectId, touched))
  await addEvents(
    tx,
    projectId,
    touched.slice(0, FEW).map((asset) => ({ kind: 'asset' as const, asset })),
  )
}
