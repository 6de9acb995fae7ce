import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { root } from '../root.mjs'

const WAIT_S = 90

async function call(url, method, path, body) {
  const response = await fetch(`${url}/api${path}`, {
    method,
    ...(body === undefined
      ? {}
      : body instanceof FormData
        ? { body }
        : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    signal: AbortSignal.timeout(20_000),
  })
  const answer = await response.json()
  if (!response.ok) throw Object.assign(new Error(answer.fault?.code ?? response.status), { answer })
  return answer
}

/** The same call until it is answered well: what a person or a page does after a fault. */
async function insist(url, ...rest) {
  for (let i = 0; ; i++) {
    try {
      return await call(url(), ...rest)
    } catch (error) {
      if (i > WAIT_S * 4) throw error
      await sleep(250)
    }
  }
}

/** Files of the demo, a few assets with everything beside them. */
function someFiles() {
  const folder = mkdtempSync(join(tmpdir(), 'stern-faults-files-'))
  execFileSync(process.execPath, [join(root, 'dist', 'demo-files.js'), folder], { stdio: 'ignore' })
  const files = []
  const walk = (at) => {
    for (const name of readdirSync(at).sort()) {
      const path = join(at, name)
      if (statSync(path).isDirectory()) walk(path)
      else if (name !== 'deliveries.json' && statSync(path).size < 400_000)
        files.push({ path: relative(folder, path).split('/').slice(1).join('/'), bytes: readFileSync(path) })
    }
  }
  walk(folder)
  rmSync(folder, { recursive: true, force: true })
  const seen = new Set()
  return files.filter((f) => !seen.has(f.path) && seen.add(f.path)).slice(0, 40)
}

const sendAll = async (url, delivery, files) => {
  for (const { path, bytes } of files) {
    const form = new FormData()
    form.append('path', path)
    form.append('file', new Blob([bytes]), path.split('/').at(-1))
    await insist(url, 'POST', `/deliveries/${delivery}/files`, form)
  }
}

const deliveryDone = async (url, delivery) => {
  for (let i = 0; i < WAIT_S * 4; i++) {
    const now = await insist(url, 'GET', `/deliveries/${delivery}`)
    if (now.state === 'done') return now
    await sleep(250)
  }
  return insist(url, 'GET', `/deliveries/${delivery}`)
}

const STEP = { id: 's', remedy: 'scale/rescale', options: { factor: 2 }, on: true, why: 'by hand' }

/** Kinds of work that a fault strikes: each is prepared, begun, struck, and finished by asking again. */
export async function actsOf() {
  const own = someFiles()
  let round = 0
  const begin = async (url) => {
    // In a folder of its own: what a mesh says hangs on its path, so that it is measured anew each time
    round++
    const files = own.map((f) => ({ ...f, path: `round${round}/${f.path}` }))
    const project = (await insist(url, 'POST', '/projects', { name: 'Faults' })).id
    const delivery = (await insist(url, 'POST', `/projects/${project}/deliveries`, { note: '' })).id
    return { project, delivery, files, steps: 0 }
  }
  const sent = async (url) => {
    const state = await begin(url)
    await sendAll(url, state.delivery, state.files)
    return state
  }
  const judged = async (url) => {
    const state = await sent(url)
    await insist(url, 'POST', `/deliveries/${state.delivery}/close`)
    await deliveryDone(url, state.delivery)
    return state
  }
  const close = (url, { delivery }) => call(url(), 'POST', `/deliveries/${delivery}/close`)
  const meshes = async (url, { project }) =>
    (await insist(url, 'GET', `/projects/${project}/assets?limit=500`)).filter((a) => a.kind === 'mesh')
  const saveAll = async (url, state, steps) => {
    for (const { id } of await meshes(url, state)) {
      const { recipeRevision: revision } = await insist(url, 'GET', `/assets/${id}`)
      await call(url(), 'PUT', `/assets/${id}/recipe`, { revision, recipe: { steps } })
    }
  }
  return [
    { name: 'receiving', prepare: begin, run: (url, s) => sendAll(url, s.delivery, s.files) },
    { name: 'closing', prepare: sent, run: close },
    {
      name: 'measuring',
      prepare: async (url) => {
        const state = await sent(url)
        await insist(url, 'POST', `/deliveries/${state.delivery}/close`)
        return state
      },
      run: async () => undefined,
    },
    {
      name: 'judging',
      // Known content: nothing is measured anew, so that assembling and judging are what is struck
      prepare: async (url) => {
        const state = await sent(url)
        await insist(url, 'POST', `/deliveries/${state.delivery}/close`)
        for (let i = 0; i < 400; i++) {
          const now = await insist(url, 'GET', `/deliveries/${state.delivery}`)
          if (now.done === now.files) break
          await sleep(10)
        }
        return state
      },
      run: async () => undefined,
    },
    { name: 'output', prepare: judged, run: (url, s) => saveAll(url, s, [STEP]), recipes: true },
    {
      name: 'undoing',
      prepare: async (url) => {
        const state = await judged(url)
        await saveAll(url, state, [STEP])
        return state
      },
      run: async (url, state) => {
        for (const { id } of await meshes(url, state)) {
          const { recipeRevision: revision } = await insist(url, 'GET', `/assets/${id}`)
          await call(url(), 'POST', `/assets/${id}/undo`, { revision })
        }
      },
      recipes: true,
    },
  ]
}

/** Finishes what was begun as a person would, and says what is not as it must be. */
export async function lookWhole(url, state, act) {
  const wrong = []
  let delivery = await insist(url, 'GET', `/deliveries/${state.delivery}`)
  if (delivery.state === 'receiving') {
    const there = new Set(delivery.all.map((f) => f.path))
    await sendAll(
      url,
      state.delivery,
      state.files.filter((f) => !there.has(f.path)),
    )
    await insist(url, 'POST', `/deliveries/${state.delivery}/close`).catch(() => undefined)
  }
  delivery = await deliveryDone(url, state.delivery)
  if (delivery.state !== 'done') wrong.push(`the delivery is ${delivery.state}`)
  if (delivery.files !== state.files.length) wrong.push(`${delivery.files} of ${state.files.length} files`)
  const open = delivery.all.filter((f) => f.state === 'waiting' || f.state === 'measuring')
  if (open.length > 0) wrong.push(`${open.length} files still wait`)
  const given = delivery.all.filter((f) => f.fault?.code === 'job/failed')
  if (given.length > 0) wrong.push(`${given.length} files were refused for the fault: ${given[0].path}`)
  let rows = []
  for (let i = 0; i < WAIT_S * 4; i++) {
    rows = await insist(url, 'GET', `/projects/${state.project}/assets?limit=500`)
    if (rows.every((r) => r.state === 'judged')) break
    await sleep(250)
  }
  for (const row of rows) {
    if (row.state !== 'judged') wrong.push(`${row.name} is ${row.state}`)
    if (row.version !== 1) wrong.push(`${row.name} has version ${row.version}`)
  }
  if (new Set(rows.map((r) => `${r.kind} ${r.name}`)).size !== rows.length)
    wrong.push('an asset stands twice')
  const expected = (act.expected ??= rows.length)
  if (rows.length !== expected) wrong.push(`${rows.length} assets, ${expected} before`)
  if (act.recipes)
    for (const row of rows.filter((r) => r.kind === 'mesh')) {
      const detail = await insist(url, 'GET', `/assets/${row.id}`)
      if (detail.making) wrong.push(`the output of ${row.name} is still being made`)
      if (detail.recipe.steps.length > 0 && !detail.output && !detail.outputFault)
        wrong.push(`${row.name} has no output`)
    }
  return wrong
}
