import { sql, type SQL } from 'drizzle-orm'
import * as z from 'zod'
import {
  assetRowSchema,
  stations,
  tallySchema,
  type AssetRow,
  type Facets,
  type LibraryFilter,
  type LibraryPage,
  type Rulebook,
  type Station,
} from '@stern-gate/contract'
import type { Queryable } from './database'

/** A station as a bit of versions.stations. */
export const stationBit = (station: Station): number => 1 << stations.indexOf(station)

const TEXTURE_SET = 'texture-set'
const FRESH = sql.raw(`interval '1 day'`)

/** What a list says of an asset: its verdict where it has one, else what it waits for. */
const shown = sql.raw(
  `case v.state when 'judged' then v.verdict::text when 'failed' then 'failed' else 'unjudged' end`,
)
const className = sql.raw(`case a.kind when '${TEXTURE_SET}' then '${TEXTURE_SET}' else v.class_name end`)
const newest = sql.raw('assets a join versions v on v.asset_id = a.id and v.number = a.current_version')

/** What a person types is no pattern. */
export const patternOf = (text: string): string => text.replace(/[\\%_]/g, (c) => `\\${c}`)

/** Each filter by itself, so that a facet can count without its own. */
function conditionsOf(filter: LibraryFilter, rulebook: Rulebook): Record<keyof LibraryFilter, SQL> {
  const all = sql`true`
  const { verdict, station, class: kind, family, find, fresh, stays } = filter
  return {
    verdict: verdict === undefined ? all : sql`${shown} = ${verdict}`,
    station: station === undefined ? all : sql`(v.stations & ${stationBit(station)}) > 0`,
    class: kind === undefined ? all : sql`${className} = ${kind}`,
    family: family === undefined ? all : sql`v.family = ${family}`,
    stays: stays === true ? sql`${shown} in ('held', 'failed')` : all,
    fresh: fresh === true ? sql`a.updated > now() - ${FRESH}` : all,
    find: find === undefined ? all : findCondition(find, rulebook),
  }
}

/** Part of a name, of the headline, of a class's title or of who brought it. */
function findCondition(find: string, rulebook: Rulebook): SQL {
  const pattern = `%${patternOf(find)}%`
  const classes = Object.entries(rulebook.classes)
    .filter(([, { title }]) => title.toLowerCase().includes(find.toLowerCase()))
    .map(([id]) => id)
  return sql`(v.shown_name ilike ${pattern} or v.headline ilike ${pattern} or v.by ilike ${pattern}
    or v.class_name = any(${sql.param(classes)}::text[]))`
}

const and = (conditions: readonly SQL[]): SQL => sql.join([...conditions], sql` and `)

const orders: Record<'newest' | 'name', SQL> = {
  newest: sql.raw('a.updated desc, a.id desc'),
  name: sql.raw('v.shown_name collate "C", a.id'),
}

const rowSchema = z.looseObject({ updated: z.string(), tally: z.unknown(), verdict: z.string().nullable() })

/** A window of a project's assets, filtered and sorted, and how many there are. */
export async function libraryPage(
  db: Queryable,
  projectId: string,
  rulebook: Rulebook,
  filter: LibraryFilter,
  { sort, offset, limit }: { sort: 'newest' | 'name'; offset: number; limit: number },
): Promise<LibraryPage> {
  const where = sql`a.project_id = ${projectId} and ${and(Object.values(conditionsOf(filter, rulebook)))}`
  const total = await db.execute<{ n: number }>(sql`select count(*)::int as n from ${newest} where ${where}`)
  // The window is found by the few columns that sort it; only its rows are read whole
  const rows = await db.execute(sql`
    with page as (select a.id, v.id as version_id from ${newest} where ${where}
      order by ${orders[sort]} limit ${limit} offset ${offset})
    select a.id, v.shown_name as name, a.kind, v.class_name as class, v.number as version, v.state,
      case when v.state = 'judged' then v.verdict end as verdict, v.tally, v.stops, v.cautions, v.notes, v.waived,
      v.headline, v.thumbnail, v.by, a.updated,
      (select jsonb_array_length(r.body->'steps') from recipes r where r.asset_id = a.id) as steps
    from page join assets a on a.id = page.id join versions v on v.id = page.version_id order by ${orders[sort]}`)
  return {
    total: total.rows[0]!.n,
    offset,
    rows: rows.rows.map((row) => rowOf(row, rulebook)),
  }
}

function rowOf(raw: unknown, rulebook: Rulebook): AssetRow {
  const row = rowSchema.parse(raw)
  return assetRowSchema.parse({
    ...row,
    steps: row['steps'] ?? 0,
    classTitle: rulebook.classes[String(row['class'])]?.title ?? row['class'],
    tally: tallySchema.parse(row.tally),
    updated: new Date(row.updated).toISOString(),
  })
}

const countsSchema = z
  .strictObject({ facet: z.enum(['verdict', 'station', 'class', 'family']), value: z.string(), n: z.int() })
  .array()

/**
 * How many assets each value of each facet has, with all filters but the facet's own; and the counts of the
 * whole project that stand above its lists.
 */
export async function libraryFacets(
  db: Queryable,
  projectId: string,
  rulebook: Rulebook,
  filter: LibraryFilter,
): Promise<Facets> {
  const c = conditionsOf(filter, rulebook)
  const result = await db.execute(sql`
    with base as materialized (
      select ${shown} as verdict, v.stations, ${className} as class, v.family,
        (${c.verdict}) as by_verdict, (${c.station}) as by_station, (${c.class}) as by_class, (${c.family}) as by_family
      from ${newest} where a.project_id = ${projectId} and ${c.find} and ${c.fresh} and ${c.stays})
    select 'verdict' as facet, verdict as value, count(*)::int as n from base
      where by_station and by_class and by_family group by verdict
    union all select 'class', class, count(*)::int from base
      where by_verdict and by_station and by_family group by class
    union all select 'family', family, count(*)::int from base
      where by_verdict and by_station and by_class group by family
    union all select 'station', place::text, count(*)::int
      from (select stations from base where by_verdict and by_class and by_family and stations > 0) as marked
      join generate_series(0, ${stations.length - 1}) as place on (stations & (1 << place)) > 0 group by place
    order by 1, 3 desc, 2`)
  const totals = await db.execute<{ all: number; held: number; fresh: number }>(sql`
    select count(*)::int as all, count(*) filter (where ${shown} in ('held', 'failed'))::int as held,
      count(*) filter (where a.updated > now() - ${FRESH})::int as fresh
    from ${newest} where a.project_id = ${projectId}`)
  const counts = countsSchema.parse(result.rows)
  const of = (facet: (typeof counts)[number]['facet']): { value: string; count: number }[] =>
    counts.filter((r) => r.facet === facet).map(({ value, n }) => ({ value, count: n }))
  return {
    ...totals.rows[0]!,
    verdict: of('verdict'),
    class: of('class'),
    family: of('family').slice(0, MOST_FAMILIES),
    station: of('station')
      .map(({ value, count }) => ({ value: stations[Number(value)]!, count, place: Number(value) }))
      .sort((a, b) => a.place - b.place)
      .map(({ value, count }) => ({ value, count })),
  }
}

/** Names may begin with anything; a list of more is no help. */
const MOST_FAMILIES = 60

/** Ids of all assets that fit, in the order of the list. */
export async function libraryIds(
  db: Queryable,
  projectId: string,
  rulebook: Rulebook,
  filter: LibraryFilter,
  sort: 'newest' | 'name',
): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select a.id from ${newest}
    where a.project_id = ${projectId} and ${and(Object.values(conditionsOf(filter, rulebook)))}
    order by ${orders[sort]}`)
  return rows.map((r) => r.id)
}
