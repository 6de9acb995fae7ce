import pg from 'pg'
import { crateFiles } from '@stern-gate/core/fixtures'
import { call, withServer } from './benchServer'
import type { Figure } from './figure'

const ASSETS = 20_000
const FINDINGS = 10
/** Each call is made so often; the middle one stands. */
const ROUNDS = 7
const WANTED_MS = 200

interface Asset {
  id: string
}

/** Every call of every screen on a library of 20,000 assets and 200,000 findings, in milliseconds. */
export const libraryFigures = (tell: (line: string) => void): Promise<Figure[]> =>
  withServer(async ({ url, databaseUrl }) => {
    const project = (await call<Asset>(url, 'POST', '/projects', { name: 'Library' })).id
    tell('one crate through the server')
    await deliverCrate(url, project)
    tell(`${ASSETS.toLocaleString('en')} copies of it`)
    const pool = new pg.Pool({ connectionString: databaseUrl, max: 1 })
    await multiply(pool)
    await pool.query('analyze')
    const ids = (
      await pool.query<Asset>('select id from assets where project_id = $1 order by name limit 1000', [
        project,
      ])
    ).rows.map((r) => r.id)
    await pool.end()
    const page = `/projects/${project}`
    const calls: [what: string, method: string, path: string, body?: unknown][] = [
      ['Arrivals: the projects', 'GET', '/projects'],
      ['Arrivals: the deliveries', 'GET', `${page}/deliveries`],
      ['Arrivals: first window, newest first', 'GET', `${page}/library?sort=newest&limit=60`],
      ['Arrivals: a window far down', 'GET', `${page}/library?sort=newest&limit=60&offset=18000`],
      ['Arrivals: held ones', 'GET', `${page}/library?sort=newest&limit=60&verdict=held`],
      ['Assets: first window by name', 'GET', `${page}/library?sort=name&limit=60`],
      ['Assets: a window far down', 'GET', `${page}/library?sort=name&limit=60&offset=18000`],
      ['Assets: found by a word', 'GET', `${page}/library?sort=name&limit=60&find=crate_12`],
      ['Assets: the facets', 'GET', `${page}/facets`],
      ['Assets: the facets of a station', 'GET', `${page}/facets?station=colour&find=crate`],
      ['Find: three letters', 'GET', `${page}/names?find=crate_19`],
      ['Find: one letter', 'GET', `${page}/names?find=h`],
      ['Many at once: what a thousand could take', 'POST', `${page}/offers`, { assets: ids }],
      ['Many at once: the last acts', 'GET', `${page}/changes`],
      ['Bench: an asset', 'GET', `/assets/${ids[17]}`],
      ['Bench: the remedies', 'GET', '/remedies'],
      ['Dispatch: the plan', 'POST', `${page}/dispatch-plan`, { target: 'desk', assets: null }],
      ['Dispatch: past ones', 'GET', `${page}/dispatches`],
    ]
    const figures: Figure[] = []
    for (const [what, method, path, body] of calls) {
      tell(what)
      const times: number[] = []
      for (let i = 0; i < ROUNDS; i++) {
        const from = performance.now()
        await call(url, method, path, body)
        times.push(performance.now() - from)
      }
      const middle = times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]!
      figures.push({
        what: `20,000 assets, 200,000 findings. ${what}, in milliseconds`,
        measured: `${middle.toFixed(0)} ms (${times[0]!.toFixed(0)} to ${times.at(-1)!.toFixed(0)})`,
        ratio: middle,
        wanted: { most: WANTED_MS },
      })
    }
    figures.push(...(await rulebookFigures(url, page, tell)))
    return figures
  })

/** What a change of the rulebook would do to all assets, and how long it takes to be in force. */
async function rulebookFigures(url: string, page: string, tell: (line: string) => void): Promise<Figure[]> {
  const { rulebook, revision } = await call<{ rulebook: Record<string, unknown>; revision: number }>(
    url,
    'GET',
    `${page}/rulebook`,
  )
  const draft = (level: string) => ({ ...rulebook, rules: { 'collision/missing': { level } } })
  tell('Rulebook: the first question')
  const timed = async (work: () => Promise<unknown>): Promise<number> => {
    const from = performance.now()
    await work()
    return performance.now() - from
  }
  const first = await timed(() => call(url, 'POST', `${page}/rulebook/effect`, { rulebook: draft('note') }))
  tell('Rulebook: the next ones')
  const times: number[] = []
  for (let i = 0; i < ROUNDS; i++)
    times.push(
      await timed(() =>
        call(url, 'POST', `${page}/rulebook/effect`, { rulebook: draft(i % 2 ? 'note' : 'caution') }),
      ),
    )
  const middle = times.sort((a, b) => a - b)[Math.floor(ROUNDS / 2)]!
  tell('Rulebook: saved')
  const saved = await timed(() =>
    call(url, 'PUT', `${page}/rulebook`, { rulebook: draft('note'), revision, note: '' }),
  )
  return [
    {
      what: '20,000 assets. Rulebook: what a change would do, asked first (facts are read)',
      measured: `${(first / 1000).toFixed(1)} s`,
      ratio: first / 1000,
      wanted: { most: 10 },
    },
    {
      what: '20,000 assets. Rulebook: what a change would do, asked again, in seconds (1 wanted for 10,000)',
      measured: `${(middle / 1000).toFixed(2)} s (${(times[0]! / 1000).toFixed(2)} to ${(times.at(-1)! / 1000).toFixed(2)})`,
      ratio: middle / 1000,
      wanted: { most: 2 },
    },
    {
      what: '20,000 assets. Rulebook: saved, all of them to be judged anew, in seconds (5 wanted for 10,000)',
      measured: `${(saved / 1000).toFixed(1)} s`,
      ratio: saved / 1000,
      wanted: { most: 10 },
    },
  ]
}

async function deliverCrate(url: string, project: string): Promise<void> {
  const { id } = await call<Asset>(url, 'POST', `/projects/${project}/deliveries`, { note: 'bench' })
  const form = new FormData()
  for (const [path, bytes] of Object.entries(await crateFiles({ green: 'down', hull: false })))
    for (const [key, value] of [
      ['path', path],
      ['file', new Blob([Uint8Array.from(bytes)])],
    ] as const)
      form.append(key, value)
  const sent = await fetch(`${url}/api/deliveries/${id}/files`, { method: 'POST', body: form })
  if (!sent.ok) throw new Error(await sent.text())
  await call(url, 'POST', `/deliveries/${id}/close`)
  for (;;) {
    const rows = await call<{ state: string }[]>(url, 'GET', `/projects/${project}/assets`)
    if (rows.length > 0 && rows.every((r) => r.state === 'judged')) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
}

/** Copies the one asset that is there, row by row in each table, with names and verdicts of their own. */
async function multiply(pool: pg.Pool): Promise<void> {
  const columnsOf = async (table: string, without: string[]): Promise<string[]> =>
    (
      await pool.query<{ c: string }>(
        `select quote_ident(column_name) as c from information_schema.columns
         where table_name = $1 and not (column_name = any($2)) and is_generated = 'NEVER'`,
        [table, without],
      )
    ).rows.map((r) => r.c)
  const list = (columns: string[], prefix = ''): string => columns.map((c) => prefix + c).join(', ')
  await pool.query(`create temporary table copies as select gen_random_uuid() as asset, gen_random_uuid() as version, n,
    (array['harbour', 'quay', 'deck', 'yard', 'mast'])[1 + n % 5] || '_crate_' || n || '_a' as name
    from generate_series(1, ${ASSETS - 1}) as n`)
  const a = await columnsOf('assets', ['id', 'name', 'updated'])
  await pool.query(`insert into assets (id, name, updated, ${list(a)})
    select copies.asset, copies.name, now() - copies.n * interval '1 minute', ${list(a, 'one.')} from copies, (select * from assets limit 1) as one`)
  const v = await columnsOf('versions', ['id', 'asset_id', 'shown_name', 'verdict'])
  await pool.query(`insert into versions (id, asset_id, shown_name, verdict, ${list(v)})
    select copies.version, copies.asset, copies.name, (case when copies.n % 3 = 0 then 'clear' else 'held' end)::verdict,
      ${list(v, 'one.')} from copies, (select * from versions limit 1) as one`)
  const f = await columnsOf('version_files', ['version_id', 'path'])
  await pool.query(`insert into version_files (version_id, path, ${list(f)})
    select copies.version, one.path, ${list(f, 'one.')} from copies,
      (select * from version_files where version_id = (select version_id from version_files limit 1)) as one`)
  await pool.query(`insert into recipes (asset_id, revision, body, history)
    select copies.asset, 0, '{"steps":[]}', '[]' from copies`)
  const d = await columnsOf('findings', ['id', 'version_id', 'fingerprint'])
  await pool.query(`insert into findings (version_id, fingerprint, ${list(d)})
    select copies.version, one.fingerprint || k, ${list(d, 'one.')} from copies, generate_series(1, ${FINDINGS}) as k,
      lateral (select * from findings where version_id = (select version_id from findings limit 1) order by id offset (k % 3) limit 1) as one`)
  await pool.query(`insert into asset_names (asset_id, what, name)
    select copies.asset, one.what, replace(one.name, 'harbour_crate_a', copies.name) from copies,
      (select what, name from asset_names where asset_id = (select asset_id from asset_names limit 1)) as one`)
}
