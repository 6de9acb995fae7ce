import { fork } from 'node:child_process'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { validateBytes } from 'gltf-validator'
import type { Document, Primitive } from '@gltf-transform/core'
import {
  assembleAssets,
  buildSubject,
  defaultRulebook,
  floatsOf,
  judge,
  measureMesh,
  mergeVertices,
  meshTopology,
  nearPoints,
  placesOf,
  pointIds,
  pointsOfTriangles,
  primitiveView,
  readGltfContainer,
  readMesh,
  type MeasuredFile,
} from '@stern-gate/core'
import { sha256, topologyThread } from '@stern-gate/engine'
import { exponent, inPairs, median } from './clock'
import type { Figure } from './figure'
import { lumpyBall } from './sampleGlb'

/** As a measuring thread has it. */
const thread = topologyThread(new URL('./topology-worker.js', import.meta.url))

/** Read, measured and judged: what a check does with one mesh file. */
async function checkMesh(glb: Uint8Array, uvOverlap: boolean): Promise<number> {
  const container = readGltfContainer(glb)
  if (!container.ok) throw new Error(container.fault.why)
  const { facts } = await measureMesh(
    container.value,
    [],
    glb.length,
    { resource: () => null, hash: () => 'x' },
    { uvOverlap, topology: thread.count },
  )
  const measured: MeasuredFile[] = [
    {
      path: 'harbour/harbour_ball_a.glb',
      sha256: 'x',
      sizeBytes: glb.length,
      kind: 'glb',
      facts,
      fault: null,
      embedded: {},
    },
  ]
  const [draft] = assembleAssets(measured, defaultRulebook)
  return judge(
    buildSubject(draft!, measured, {
      rulebook: defaultRulebook,
      targetName: defaultRulebook.defaultTarget,
      classChoice: null,
      taken: new Set(),
      family: 'harbour',
    }),
  ).findings.length
}

/** Checking meshes: against the validator, the growth, the memory. */
export async function meshFigures(tell: (line: string) => void): Promise<Figure[]> {
  const figures: Figure[] = []
  const million = await lumpyBall(1_000_000)
  for (const uvOverlap of [false, true]) {
    tell(`1 M triangles ${uvOverlap ? 'with' : 'without'} UV overlap`)
    const [ours, theirs] = await inPairs(
      5,
      () => checkMesh(million, uvOverlap),
      () => validateBytes(million),
    )
    const most = uvOverlap ? 1.5 : 0.5
    figures.push({
      what: `GLB of 1 M triangles ${uvOverlap ? 'with all measures' : 'without the UV overlap'}: read, measured, judged, against gltf-validator`,
      measured: `${ours.toFixed(0)} ms against ${theirs.toFixed(0)} ms`,
      ratio: ours / theirs,
      wanted: { most },
    })
  }
  figures.push(...(await topology(million, tell)))
  figures.push(await growth(tell), await memory(million, tell))
  return figures
}

/**
 * What hangs together and what could be welded, on one thread, against reading the file twice over: from
 * disk, hashed, opened, as the engine reads it; and against opening alone, which copies nothing.
 */
async function topology(glb: Uint8Array, tell: (line: string) => void): Promise<Figure[]> {
  tell('1 M triangles: weld and topology')
  const open = async (bytes: Uint8Array): Promise<Document> => {
    const container = readGltfContainer(bytes)
    if (!container.ok) throw new Error(container.fault.why)
    const source = await readMesh(container.value, [], () => null, undefined, 'shared')
    if (!source.ok) throw new Error(source.fault.why)
    return source.value.document
  }
  const primitives = (await open(glb))
    .getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives())
  const folder = await mkdtemp(join(tmpdir(), 'stern-bench-')),
    file = join(folder, 'million.glb')
  try {
    await writeFile(file, glb)
    const [ours, reading] = await inPairs(
      7,
      () => primitives.forEach(weldAndTopology),
      async () => {
        const bytes = await readFile(file)
        sha256(bytes)
        await open(bytes)
      },
    )
    const opening = await median(5, () => open(glb)),
      what =
        'GLB of 1 M triangles: points, doubled and near ones, edges, shells, facing, borders, on one thread, against'
    return [
      {
        what: `${what} reading it twice over: from disk, hashed, opened`,
        measured: `${ours.toFixed(0)} ms against 2 × ${reading.toFixed(0)} ms`,
        ratio: ours / (2 * reading),
        wanted: { most: 1 },
      },
      {
        what: `${what} opening it twice over, which looks at no value`,
        measured: `${ours.toFixed(0)} ms against 2 × ${opening.toFixed(0)} ms`,
        ratio: ours / (2 * opening),
        wanted: null,
      },
    ]
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

function weldAndTopology(primitive: Primitive): void {
  const { positions, indices } = primitiveView(primitive)
  const numbered = pointIds(positions),
    places = placesOf(positions, numbered),
    corners = new Uint32Array(indices.length)
  mergeVertices(
    numbered.ids,
    numbered.count,
    ['NORMAL', 'TEXCOORD_0'].map((s) => ({
      values: floatsOf(primitive.getAttribute(s)!),
      size: s === 'NORMAL' ? 3 : 2,
      tolerance: 1e-5,
    })),
  )
  pointsOfTriangles(indices, numbered.ids, corners)
  meshTopology(corners, places, 'plain')
  nearPoints(places, 1e-5)
}

async function growth(tell: (line: string) => void): Promise<Figure> {
  const sizes = [100_000, 250_000, 500_000, 1_000_000, 2_000_000],
    times: number[] = []
  for (const size of sizes) {
    tell(`growth: ${size} triangles`)
    const glb = await lumpyBall(size)
    times.push(await median(3, () => checkMesh(glb, true)))
  }
  // n log n over this range has the exponent that its own two ends give
  const most = Math.log((2e6 * Math.log(2e6)) / (1e5 * Math.log(1e5))) / Math.log(20)
  return {
    what: 'Exponent of growth from 100 k to 2 M triangles, all measures (n log n: the limit)',
    measured: times.map((t) => `${t.toFixed(0)} ms`).join(', '),
    ratio: exponent(sizes, times),
    wanted: { most: Number(most.toFixed(2)) },
  }
}

/** Most memory held by a process that checks the file, less what the same process holds with a tiny one. */
async function memory(glb: Uint8Array, tell: (line: string) => void): Promise<Figure> {
  tell('memory')
  const folder = await mkdtemp(join(tmpdir(), 'stern-bench-'))
  try {
    const peak = async (name: string, bytes: Uint8Array): Promise<number> => {
      const file = join(folder, name)
      await writeFile(file, bytes)
      return new Promise((resolve, reject) => {
        const child = fork(fileURLToPath(import.meta.url), ['--peak-of', file])
        child.once('message', (kb) => resolve(Number(kb) * 1024)).once('error', reject)
      })
    }
    const small = await peak('small.glb', await lumpyBall(200)),
      large = await peak('large.glb', glb)
    return {
      what: 'Peak memory of checking it, in file sizes',
      measured: `${((large - small) / 1e6).toFixed(0)} MB for ${(glb.length / 1e6).toFixed(0)} MB`,
      ratio: (large - small) / glb.length,
      wanted: { most: 6 },
    }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

export const checkWholeMesh = (glb: Uint8Array): Promise<number> => checkMesh(glb, true)
