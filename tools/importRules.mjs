// Which way imports may point, as rules of dependency-cruiser; tools/imports.test.ts runs them.

/** What each workspace may import of ours. */
const mayImport = {
  contract: [],
  core: ['contract'],
  engine: ['core', 'contract'],
  cli: ['engine', 'core', 'contract'],
  server: ['engine', 'core', 'contract'],
  web: ['core', 'contract'],
  demo: ['core', 'contract'],
  e2e: ['contract', 'core', 'engine', 'server', 'demo', 'tools'],
  bench: ['contract', 'core', 'engine', 'demo', 'tools'],
}

/**
 * Folders of a workspace from the ground up: each may import what stands before it. Files that lie in no folder
 * stand above all of them.
 */
const floors = {
  core: [
    'kernels',
    'numbers',
    'lods',
    'caching',
    'geometry',
    'image',
    'read',
    'scene',
    'picture',
    'measure',
    'rulebook',
    'assembly',
    'subject',
    'surfaces',
    'write',
    'apart',
    'remedies',
    'matching',
    'pairing',
    'rules',
    'judge',
    'soundings',
    'fitting',
    'recipe',
    'dispatch',
    'fixtures',
  ],
  server: [
    'trouble',
    'store',
    'live',
    'services',
    'care',
    'auth',
    'judging',
    'rulebooks',
    'dispatch',
    'jobs',
    'http',
    'start',
  ],
  web: ['api', 'theme', 'words', 'keys', 'marks', 'stages', 'stores', 'bench', 'components', 'views'],
}

/** Packages that the lower workspaces may have; the others have what their package.json lists. */
const packages = {
  contract: ['zod'],
  core: [
    'zod',
    '@gltf-transform/(core|extensions|functions)',
    'fflate',
    'meshoptimizer',
    'picomatch',
    'three',
    'three-mesh-bvh',
    'earcut',
    'watlas',
  ],
}

const folders = (names) => `(${names.join('|')})`

const betweenWorkspaces = Object.entries(mayImport).map(([workspace, others]) => ({
  name: `${workspace}-imports-${others.join('-') || 'nothing-of-ours'}`,
  severity: 'error',
  from: { path: `^${workspace}/` },
  to: {
    path: `^${folders([...Object.keys(mayImport), 'tools'])}/`,
    pathNot: `^${folders([workspace, ...others])}/`,
  },
}))

const betweenFloors = Object.entries(floors).flatMap(([workspace, order]) =>
  order.map((floor, i) => ({
    name: `${workspace}-${floor}-imports-downward`,
    severity: 'error',
    from: { path: `^${workspace}/src/${floor}/` },
    to: { path: `^${workspace}/src/`, pathNot: `^${workspace}/src/${folders(order.slice(0, i + 1))}/` },
  })),
)

const ofPackages = Object.entries(packages).map(([workspace, names]) => ({
  name: `packages-of-${workspace}`,
  severity: 'error',
  from: { path: `^${workspace}/src/`, pathNot: '^core/src/fixtures/' },
  to: { pathNot: `^${folders(Object.keys(mayImport))}/|(^|node_modules/)${folders(names)}(/|$)` },
}))

/** Rules for dependency-cruiser; types count as imports, tests are left out. */
export const importRules = {
  forbidden: [
    ...betweenWorkspaces,
    ...betweenFloors,
    ...ofPackages,
    {
      name: 'page-without-node',
      severity: 'error',
      from: { path: '^web/src/' },
      to: { dependencyTypes: ['core'] },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
}

export const workspaces = Object.keys(mayImport)
