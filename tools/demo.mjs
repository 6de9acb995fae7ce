// npm run demo: installs what is missing, starts everything, loads the demo project through the application's
// own API, serves.   npm run demo -- --reset   throws the demo's data away first
import { existsSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs'
import { join, relative } from 'node:path'
import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import { ensurePackages } from './packages.mjs'
import { root } from './root.mjs'

ensurePackages()
const { runServer } = await import('./runServer.mjs')
if (process.argv.includes('--reset')) {
  const { dropCluster } = await import('./postgres.mjs')
  dropCluster('demo')
  for (const part of ['demo', 'demo-files'])
    rmSync(join(root, '.stern', part), { recursive: true, force: true })
  console.log('The demo starts over.')
}
await runServer('demo', {
  ready: async (url) => {
    const { loadDemo } = await import('./loadDemo.mjs')
    await loadDemo(url, makeDeliveries)
    console.log(
      `\n  Gullwick Harbour is open: ${url}\n\n  Ctrl-C ends it; the data stay. npm run demo -- --reset starts over.\n`,
    )
  },
})

async function makeDeliveries() {
  const folder = join(root, '.stern', 'demo-files')
  if (!existsSync(join(folder, 'deliveries.json')))
    await promisify(execFile)(process.execPath, [join(root, 'dist', 'demo-files.js'), folder])
  return JSON.parse(readFileSync(join(folder, 'deliveries.json'), 'utf8')).map((d) => ({
    ...d,
    files: filesIn(join(folder, d.folder)),
  }))
}

function filesIn(folder) {
  const files = []
  const walk = (at) => {
    for (const name of readdirSync(at).sort()) {
      const path = join(at, name)
      if (statSync(path).isDirectory()) walk(path)
      else files.push({ path: relative(folder, path), file: path })
    }
  }
  walk(folder)
  return files
}
