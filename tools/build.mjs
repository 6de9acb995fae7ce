// Builds what runs: the Node entries into dist/ by esbuild, the page into dist/web by Vite. `--node` leaves
// the page out; `--force` builds it even when its sources did not change.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { exrReaderThatEnds } from './exrReader.mjs'
import { root } from './root.mjs'

/**
 * Started for every check: what they need of the registry's packages is in one file, which loads in half the
 * time.
 */
const quickEntries = {
  'stern-gate': 'cli/src/main.ts',
  'measure-worker': 'engine/src/worker.ts',
  'topology-worker': 'engine/src/topologyWorker.ts',
}
const entries = {
  server: 'server/src/start/main.ts',
  worker: 'server/src/start/workerMain.ts',
  doctor: 'server/src/start/doctorMain.ts',
  'demo-files': 'demo/src/main.ts',
  docs: 'tools/docs/writeRulePages.ts',
  bench: 'bench/src/main.ts',
}

const present = (files) =>
  Object.fromEntries(Object.entries(files).filter(([, file]) => existsSync(join(root, file))))

/** Builds what runs in Node, unless nothing that goes into it changed; whether it built. */
export async function buildNode({ force = false, say = () => undefined } = {}) {
  const fresh = isFresh('node', [
    [
      'contract/src',
      'core/src',
      'core/package.json',
      'engine',
      'cli',
      'server/src',
      'demo/src',
      'bench/src',
      'tools',
    ],
    ['package-lock.json'],
  ])
  if (!force && fresh.is && everyEntry().every((name) => existsSync(join(root, 'dist', `${name}.js`))))
    return false
  say()
  await buildEntries()
  fresh.note()
  return true
}

const everyEntry = () => Object.keys({ ...present(quickEntries), ...present(entries) })

async function buildEntries() {
  const { build } = await import('esbuild')
  const shared = {
    absWorkingDir: root,
    outdir: 'dist',
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    banner: {
      js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
    },
  }
  const built = await Promise.all([
    // One by one: built together they would share parts, and each load what only the other needs
    ...Object.entries(present(quickEntries)).map(([name, file]) =>
      build({
        ...shared,
        entryPoints: { [name]: file },
        minifySyntax: true,
        minifyWhitespace: true,
        legalComments: 'linked',
        // sharp has a native part, piscina's threads load it by themselves, canvas is not installed; draco3dgltf,
        // watlas, gltf-validator and ktx2-encoder find their own files
        external: ['sharp', 'piscina', 'draco3dgltf', 'watlas', 'canvas', 'gltf-validator', 'ktx2-encoder'],
        splitting: true,
        chunkNames: 'parts/[name]-[hash]', // readers of rare formats are loaded when such a file comes
        plugins: [hullMathematics, noThreadsOfThreads, exrReaderThatEnds],
        metafile: true,
      }),
    ),
    build({
      ...shared,
      entryPoints: present(entries),
      plugins: [
        {
          // Our own workspaces go in, packages from the registry stay outside; but for one of which the tools
          // have an older version
          name: 'packages-outside',
          setup: (b) =>
            b.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
              kind === 'entry-point' || path.startsWith('@stern-gate/') || path === 'yauzl'
                ? undefined
                : { path, external: true },
            ),
        },
      ],
    }),
  ])
  dropOldParts(built.flatMap((b) => Object.keys(b.metafile?.outputs ?? {})))
}

/** The hull needs four classes of three; the package's main file would bring all of it into every start. */
const hullMathematics = {
  name: 'hull-mathematics',
  setup(b) {
    b.onResolve({ filter: /^three$/ }, ({ importer }) =>
      /convexhull\.[jt]s$/i.test(importer)
        ? { path: 'mathematics', namespace: 'three', sideEffects: false }
        : undefined,
    )
    b.onLoad({ filter: /.*/, namespace: 'three' }, () => ({
      resolveDir: root,
      contents: ['Line3', 'Plane', 'Triangle', 'Vector3']
        .map((name) => `export { ${name} } from 'three/src/math/${name}.js'`)
        .join('\n'),
    }))
  },
}

/**
 * The TIFF reader could spread its work over threads of its own, by a package that breaks where it is itself
 * in one; files are spread already.
 */
const noThreadsOfThreads = {
  name: 'no-threads-of-threads',
  setup(b) {
    b.onResolve({ filter: /^web-worker$/ }, () => ({
      path: 'none',
      namespace: 'no-worker',
      sideEffects: false,
    }))
    b.onLoad({ filter: /.*/, namespace: 'no-worker' }, () => ({
      contents: 'export default class { constructor() { throw new Error("no threads of threads") } }',
    }))
  },
}

const DAY = 24 * 3600 * 1000

/** Parts of earlier builds, but for those that a process which still runs may yet load. */
function dropOldParts(outputs) {
  const folder = join(root, 'dist', 'parts'),
    kept = new Set(outputs.map((o) => join(root, o)))
  for (const name of existsSync(folder) ? readdirSync(folder) : []) {
    const file = join(folder, name)
    if (!kept.has(file) && Date.now() - statSync(file).mtimeMs > DAY) rmSync(file)
  }
}

/** Whether these folders and files are as they were when `note` was last called under this name. */
function isFresh(name, paths) {
  const hash = createHash('sha256')
  const walk = (path) => {
    const info = statSync(join(root, path), { throwIfNoEntry: false })
    if (!info) return
    if (!info.isDirectory()) return void hash.update(path).update(readFileSync(join(root, path)))
    for (const entry of readdirSync(join(root, path)).sort())
      if (entry !== 'node_modules' && entry !== 'dist') walk(join(path, entry))
  }
  for (const path of paths.flat()) walk(path)
  const digest = hash.digest('hex'),
    stamp = join(root, 'dist', `${name}.sha256`)
  return {
    is: existsSync(stamp) && readFileSync(stamp, 'utf8') === digest,
    note() {
      mkdirSync(join(root, 'dist'), { recursive: true })
      writeFileSync(stamp, digest)
    },
  }
}

/** Builds the page, unless nothing that goes into it changed; whether it built. */
export async function buildWeb({ force = false, say = () => undefined } = {}) {
  const fresh = isFresh('web', [
    ['web/src', 'web/public', 'core/src', 'contract/src'],
    ['web/index.html', 'web/vite.config.ts', 'package-lock.json'],
  ])
  if (!force && fresh.is && existsSync(join(root, 'dist/web/index.html'))) return false
  say()
  const { build } = await import('vite')
  await build({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts'), logLevel: 'warn' })
  fresh.note()
  return true
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  await buildNode({ force: process.argv.includes('--force') })
  if (!process.argv.includes('--node')) await buildWeb({ force: process.argv.includes('--force') })
}
