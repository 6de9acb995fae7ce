import { sql } from 'drizzle-orm'
import type { Queryable } from '../store/database'

/**
 * Everything that refers to a stored file, as a statement that gives `sha256` and `owner`: sources, facts with
 * their evidence and thumbnails, pictures inside meshes, outputs, what steps keep outside their options, packages.
 * What it does not name is nobody's.
 */
const references = sql.raw(`
  select sha256, 'delivery' as owner from delivery_files where sha256 is not null
  union all select sha256, 'version' from version_files
  union all select sha256, 'scene' from scenes where sha256 is not null
  union all select evidence, 'facts' from facts where evidence is not null
  union all select thumbnail, 'facts' from facts where thumbnail is not null
  union all select picture, 'facts' from facts, jsonb_object_keys(
    case jsonb_typeof(body->'embedded') when 'object' then body->'embedded' else '{}' end) as picture
  union all select thumbnail, 'version' from versions where thumbnail is not null
  union all select file->>'sha256', 'output' from outputs, jsonb_array_elements(files) as file
  union all select thumbnail, 'output' from outputs where thumbnail is not null
  union all select evidence, 'output' from outputs where evidence is not null
  union all select data #>> '{}', 'recipe' from recipes,
    jsonb_path_query(body, '$.steps[*].options.data') as data
  union all select data #>> '{}', 'recipe' from recipes,
    jsonb_path_query(history, '$[*].steps[*].options.data') as data
  union all select file, 'encoding' from encodings
  union all select picture, 'encoding' from encodings
  union all select sha256, 'dispatch' from dispatches where sha256 is not null`)

/** Hashes that something refers to, each with one of its owners. */
export async function listReferences(db: Queryable): Promise<Map<string, string>> {
  const { rows } = await db.execute<{ sha256: string; owner: string }>(
    sql`select sha256, min(owner) as owner from (${references}) as refs group by sha256`,
  )
  return new Map(rows.map((r) => [r.sha256, r.owner]))
}

/** Whether something refers to a hash just now. */
export async function isReferenced(db: Queryable, sha256: string): Promise<boolean> {
  const { rows } = await db.execute<{ there: boolean }>(
    sql`select exists (select 1 from (${references}) as refs where refs.sha256 = ${sha256}) as there`,
  )
  return rows[0]!.there
}
