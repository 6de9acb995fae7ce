import { sql } from 'drizzle-orm'
import { foundSchema, type Found } from '@stern-gate/contract'
import type { Queryable } from './database'
import { assets, versionFiles, versions } from './schema'

const MOST = 60

/**
 * Names of a project's newest versions that hold a text, whatever its case: those that begin with it first,
 * then the shorter ones.
 */
export async function findNames(
  db: Queryable,
  projectId: string,
  find: string,
  what: Found['what'] | null,
): Promise<Found[]> {
  // What a person types is no pattern
  const pattern = `%${find.replace(/[\\%_]/g, (c) => `\\${c}`)}%`
  const inside = sql`select part->>'what' as what, part->>'name' as name, ${assets.id} as asset, ${versions.shownName} as "assetName", case when ${versions.state} = 'judged' then ${versions.verdict} end as verdict
    from ${assets} join ${versions} on ${versions.assetId} = ${assets.id} and ${versions.number} = ${assets.currentVersion}
    cross join lateral jsonb_array_elements(${versions.names}) as part where ${assets.projectId} = ${projectId}`
  const files = sql`select 'file' as what, ${versionFiles.path} as name, ${assets.id} as asset, ${versions.shownName} as "assetName", case when ${versions.state} = 'judged' then ${versions.verdict} end as verdict
    from ${assets} join ${versions} on ${versions.assetId} = ${assets.id} and ${versions.number} = ${assets.currentVersion}
    join ${versionFiles} on ${versionFiles.versionId} = ${versions.id} where ${assets.projectId} = ${projectId}`
  const result = await db.execute<
    Found & Record<string, unknown>
  >(sql`select * from (${inside} union ${files}) as named
    where name ilike ${pattern} and (${what}::text is null or what = ${what}::text)
    order by position(lower(${find}) in lower(name)), length(name), (what = 'asset') desc, name, asset limit ${MOST}`)
  return foundSchema.array().parse(result.rows)
}
