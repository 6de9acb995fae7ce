import { sql } from 'drizzle-orm'
import * as z from 'zod'
import { faultSchema, leftBehindSchema, type DispatchPlan, type LeftBehind } from '@stern-gate/contract'
import type { Queryable } from '../store/database'
import type { ProjectRow } from '../store/projects'

/** So many assets that would stay behind are listed; the others are counted. */
const LISTED = 300

const countsSchema = z.strictObject({
  clear: z.int(),
  elsewhere: z.int(),
  held: z.int(),
  waiting: z.int(),
})
const staysSchema = z.strictObject({
  asset: z.string(),
  name: z.string(),
  kind: z.string(),
  state: z.string(),
  headline: z.string(),
  fault: faultSchema.nullable(),
  stops: z.int(),
})

/** What would go and what would stay, by the verdicts that the lists show; packing judges for the target. */
export async function planDispatch(
  db: Queryable,
  project: ProjectRow,
  { target, assets }: { target: string; assets: readonly string[] | null },
): Promise<DispatchPlan> {
  const chosen = assets === null ? sql`true` : sql`a.id = any(${sql.param([...assets])}::uuid[])`
  const newest = sql`from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    where a.project_id = ${project.id} and ${chosen}`
  const counts = await db.execute(sql`
    select count(*) filter (where v.state = 'judged' and v.verdict = 'clear')::int as clear,
      count(*) filter (where v.state = 'judged' and v.verdict = 'clear'
        and coalesce(a.target_choice, ${project.target}) <> ${target})::int as elsewhere,
      count(*) filter (where v.state = 'failed' or v.state = 'judged' and v.verdict <> 'clear')::int as held,
      count(*) filter (where v.state in ('waiting', 'judging'))::int as waiting ${newest}`)
  const stays = await db.execute(sql`
    select a.id as asset, v.shown_name as name, a.kind, v.state, v.headline,
      coalesce(v.fault, v.output_fault) as fault,
      (select count(*)::int from findings f where f.version_id = v.id and f.level = 'stop') as stops
      ${newest} and not (v.state = 'judged' and v.verdict = 'clear') order by v.shown_name limit ${LISTED}`)
  return {
    ...countsSchema.parse(counts.rows[0]),
    leftBehind: staysSchema.array().parse(stays.rows).map(leftBehind),
  }
}

function leftBehind({ state, headline, fault, ...row }: z.infer<typeof staysSchema>): LeftBehind {
  const why =
    state === 'judged'
      ? headline
      : state === 'failed'
        ? (fault?.why ?? 'It could not be judged.')
        : 'It waits to be judged.'
  return leftBehindSchema.parse({ ...row, why: why || (fault?.why ?? 'It is held.') })
}
