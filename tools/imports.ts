import { join, normalize } from 'node:path'

export interface SourceFile {
  path: string
  text: string
}

/**
 * What each workspace may import of ours; packages of the registry are its package.json's business, but for
 * contract and core.
 */
const allowed: Record<string, string[]> = {
  contract: [],
  core: ['contract'],
  engine: ['core', 'contract'],
  cli: ['engine', 'core', 'contract'],
  server: ['engine', 'core', 'contract'],
  web: ['core', 'contract'],
  demo: ['core', 'contract'],
  e2e: ['contract', 'core', 'engine', 'server', 'demo'],
  bench: ['contract', 'core', 'engine', 'demo'],
}

/** Folders of a workspace in their order; each may import only what stands before it, and its own. */
const floors: Record<string, string[]> = {
  core: [
    'kernels',
    'geometry',
    'image',
    'scene',
    'read',
    'picture',
    'measure',
    'rulebook',
    'rules',
    'judge',
    'pairing',
    'remedies',
    'write',
    'recipe',
    'fixtures',
  ],
  server: ['store', 'auth', 'live', 'judging', 'jobs', 'http'],
  web: ['api', 'theme', 'words', 'keys', 'marks', 'stages', 'stores', 'bench', 'components', 'views'],
}
/** Neighbours that may look at each other, with the reason. */
const doors: [from: string, to: string, why: string][] = [
  ['core/scene', 'core/read', 'names of textures are file names'],
  ['core/remedies', 'core/write', 'a remedy may write a texture; writing knows no remedy'],
]
const corePackages = [
  'zod',
  '@gltf-transform/core',
  '@gltf-transform/extensions',
  '@gltf-transform/functions',
  'fflate',
  'meshoptimizer/decoder',
  'meshoptimizer/encoder',
  'meshoptimizer/simplifier',
  'three',
  'three/examples/jsm/math/ConvexHull.js',
  'three/examples/jsm/libs/mikktspace.module.js',
  'watlas',
]
const contractPackages = ['zod']

/**
 * Imports that point upward or sideways, as `file → target`. Types count as imports. Tests are left out;
 * fixtures may use fast-png.
 */
export function forbiddenImports(files: readonly SourceFile[]): string[] {
  return files
    .filter((f) => !f.path.endsWith('.test.ts'))
    .flatMap((file) =>
      importsOf(file.text)
        .filter((target) => !isAllowed(file.path, target))
        .map((target) => `${file.path} → ${target}`),
    )
}

function importsOf(text: string): string[] {
  return [...text.matchAll(/(?:\bfrom\s*|\bimport\s*\(?\s*)['"]([^'"]+)['"]/g)].map((m) => m[1]!)
}

function isAllowed(path: string, target: string): boolean {
  const workspace = path.split('/')[0]!
  if (target.startsWith('.')) return isAllowedInside(path, normalize(join(path, '..', target)))
  if (target.startsWith('@stern-gate/')) return allowed[workspace]!.includes(target.split('/')[1]!)
  if (workspace === 'contract') return contractPackages.includes(target)
  if (workspace === 'core')
    return corePackages.includes(target) || (path.includes('/fixtures/') && target === 'fast-png')
  return workspace !== 'web' || !target.startsWith('node:')
}

function isAllowedInside(path: string, target: string): boolean {
  const [workspace, , folder] = path.split('/'),
    [otherWorkspace, , otherFolder] = target.split('/')
  // Browser tests and benchmarks start what the tools start
  if ((workspace === 'e2e' || workspace === 'bench') && otherWorkspace === 'tools') return true
  if (workspace !== otherWorkspace) return false
  const order = floors[workspace!]
  if (!order || folder === otherFolder || !folder || !otherFolder) return true
  const [own, other] = [order.indexOf(folder), order.indexOf(otherFolder)]
  if (own === -1 || other === -1) return true
  return (
    other < own ||
    doors.some(([from, to]) => from === `${workspace}/${folder}` && to === `${workspace}/${otherFolder}`)
  )
}
