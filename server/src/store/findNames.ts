import { sql } from 'drizzle-orm'
import { foundSchema, type Found } from '@stern-gate/contract'
import type { Queryable } from './database'
import { patternOf } from './library'

const MOST = 60
/** Shorter ones stand in nearly every name; of these the names that begin with it are found. */
const WHOLE_LETTERS = 3

/**
 * Names of a project's newest versions that hold a text, whatever its case: those that begin with it first,
 * then the shorter ones. A text of one or two letters finds the names that begin with it.
 */
export async function findNames(
  db: Queryable,
  projectId: string,
  find: string,
  what: Found['what'] | null,
): Promise<Found[]> {
  const letters = patternOf(find)
  const fits =
    find.length >= WHOLE_LETTERS
      ? sql`n.name ilike ${`%${letters}%`}`
      : sql`left(lower(n.name), 40) like lower(${`${letters}%`})`
  const kind = what === null ? sql`true` : sql`n.what = ${what}`
  const { rows } = await db.execute(sql`
    with found as (
      select n.what, n.name, n.asset_id from asset_names n join assets a on a.id = n.asset_id
      where a.project_id = ${projectId} and ${fits} and ${kind}
      order by position(lower(${find}) in lower(n.name)), length(n.name), (n.what = 'asset') desc, n.name, n.asset_id
      limit ${MOST * 2})
    select distinct on (place, letters, first, f.name, f.asset_id, f.what)
      f.what, f.name, f.asset_id as asset, v.shown_name as "assetName",
      case when v.state = 'judged' then v.verdict end as verdict
    from (select found.*, position(lower(${find}) in lower(name)) as place, length(name) as letters,
      case when what = 'asset' then 0 else 1 end as first from found) as f
    join assets a on a.id = f.asset_id join versions v on v.asset_id = a.id and v.number = a.current_version
    order by place, letters, first, f.name, f.asset_id, f.what limit ${MOST}`)
  return foundSchema.array().parse(rows)
}
