import { openAsBlob } from 'node:fs'
import { setTimeout as sleep } from 'node:timers/promises'

async function call(url, path, options = {}) {
  const response = await fetch(`${url}/api${path}`, options)
  const body = await response.json()
  if (!response.ok) throw new Error(`${path}: ${body.fault?.why ?? response.status}`)
  return body
}
const post = (url, path, body) =>
  call(url, path, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body ?? {}),
  })

/** Makes the demo project and delivers its files, unless that was done before. */
export async function loadDemo(url, makeDeliveries) {
  const projects = await call(url, '/projects')
  if (projects.length > 0) return
  console.log('Making the demo files …')
  const deliveries = await makeDeliveries()
  const project = await post(url, '/projects', { name: 'Gullwick Harbour' })
  // A history: each delivery on its own day
  for (const { files, note, daysAgo } of deliveries)
    await deliver(
      url,
      project.id,
      files,
      note,
      daysAgo === 0 ? undefined : new Date(Date.now() - daysAgo * 86_400_000 - 5_400_000).toISOString(),
    )
  await acceptOne(url, project.id)
}

/** One finding that somebody accepted, with its reason and a last day. */
async function acceptOne(url, project) {
  const assets = await call(url, `/projects/${project}/assets`)
  const crabpot = assets.find((a) => a.name === 'harbour_crabpot_a')
  const { source } = await call(url, `/assets/${crabpot.id}`)
  const flat = source.findings.find((f) => f.rule === 'colour/flat')
  if (!flat) return
  await post(url, `/projects/${project}/waivers`, {
    findings: [{ asset: crabpot.id, fingerprint: flat.fingerprint }],
    reason: 'one even grey until the cage is painted',
    until: new Date(Date.now() + 45 * 86_400_000).toISOString().slice(0, 10),
  })
}

/** Delivers files as a page would and waits until they are judged, with progress. */
export async function deliver(url, projectId, files, note, arrived) {
  const delivery = await post(url, `/projects/${projectId}/deliveries`, {
    note,
    ...(arrived ? { arrived } : {}),
  })
  for (let at = 0; at < files.length; at += 20) {
    const form = new FormData()
    for (const { path, file } of files.slice(at, at + 20)) {
      form.append('path', path)
      form.append('file', await openAsBlob(file), path)
    }
    await call(url, `/deliveries/${delivery.id}/files`, { method: 'POST', body: form })
  }
  await post(url, `/deliveries/${delivery.id}/close`)
  for (let shown = -1; ; await sleep(250)) {
    const now = await call(url, `/deliveries/${delivery.id}`)
    if (now.done !== shown && process.stdout.isTTY)
      process.stdout.write(`\rMeasuring: ${now.done} of ${now.files} files `)
    shown = now.done
    if (now.state === 'done' || now.state === 'cancelled') break
  }
  process.stdout.write(`${process.stdout.isTTY ? '\r' : ''}Delivered: ${files.length} files, all measured.\n`)
  return delivery.id
}
