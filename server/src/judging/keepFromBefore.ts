import { bad, type Outcome, type ScenePart } from '@stern-gate/contract'
import { fileStem, meshPart, partsOfMesh, planOf, type MeasuredFile } from '@stern-gate/core'
import { findAmong, forApart } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { findVersion, listVersionFiles, type AssetRecord, type VersionRecord } from '../store/assets'
import type { Queryable } from '../store/database'
import type { GivenFile } from '../store/deliveries'
import { findOutput } from '../store/outputs'
import { loadState } from './loadState'
import { openParts } from './previousVersions'

/**
 * Files for the levels and the collision that an earlier version had and the newest has not, taken out of what was
 * handed on then; each stands where it stood. With the files of the newest version they are its next one. Faults:
 * request/conflict where nothing is to be kept, those of reading.
 */
export async function keepFromBefore(
  services: JobServices,
  asset: AssetRecord,
): Promise<Outcome<GivenFile[]>> {
  const { db } = services.connection
  const now = await findVersion(db, asset.id, asset.currentVersion),
    before = now && (await findVersion(db, asset.id, await lastWith(db, now)))
  if (!now || !before) return nothing
  const newest = await listVersionFiles(db, now.id)
  const here = await loadState(db, { asset, version: now, files: newest }, null)
  const output = before.outputKey === null ? null : await findOutput(db, before.outputKey)
  const came = await listVersionFiles(db, before.id)
  const there = await loadState(db, { asset, version: before, files: came }, output)
  const placed = (output?.files ?? came).map((f) => ({ ...f, file: services.store.localFile(f.sha256) }))
  const kept = newest.map(givenFile)
  const own = new Set(here.files.flatMap(marksOf))
  let added = 0
  for (const file of there.files) {
    const stored = placed.find((f) => f.path === file.path)!
    const [mark] = markOfFile(file)
    if (mark !== undefined) {
      // A level or a hull in a file of its own comes along as it is
      if (own.has(mark)) continue
      kept.push(givenFile(stored))
      added++
      continue
    }
    const nodes = nodesOf(file)
    const parts = missingParts(asset.name, nodes, own)
    if (parts.length === 0) continue
    const taken = await services.engine.takeApart(
      {
        path: now.main,
        file: stored.file,
        nodes: nodes.map(forApart),
        parts,
        plan: { ...planOf('nodes'), pivot: 'scene' },
      },
      findAmong(placed),
    )
    if (!taken.ok) return taken
    for (const piece of taken.value.files) {
      const { sha256, sizeBytes } = await services.store.putBytes(piece.bytes)
      kept.push({
        path: piece.path,
        sha256,
        sizeBytes,
        kind: piece.part === 'mesh' ? 'glb' : 'unknown',
      })
      added++
    }
  }
  return added > 0 ? { ok: true, value: kept } : nothing
}

/** The version that had what the newest lacks: of several the oldest, for what a later one had is still open then. */
async function lastWith(db: Queryable, now: VersionRecord): Promise<number> {
  const kept = (await openParts(db, now)).filter((o) => o.part === 'collision' || o.part === 'levels')
  return kept.length === 0 ? now.number - 1 : Math.min(...kept.map((o) => o.version))
}

const nothing = bad(
  'request/conflict',
  'The version before has no levels and no collision that this one lacks.',
  'Clips and skins belong to the mesh that they move: deliver them with it.',
)

const givenFile = ({ path, sha256, sizeBytes, kind }: GivenFile): GivenFile => ({
  path,
  sha256,
  sizeBytes,
  kind,
})

type Nodes = NonNullable<Extract<MeasuredFile['facts'], { kind: 'mesh' }>['nodes']>
const nodesOf = ({ facts }: MeasuredFile): Nodes => (facts?.kind === 'mesh' ? (facts.nodes ?? []) : [])

const COLLISION = 'collision'
/** What the name of a mesh file says that it is: a level, or collision; nothing for the finest and for textures. */
function markOfFile({ path, facts }: MeasuredFile): string[] {
  const part = meshPart(fileStem(path))
  if (facts?.kind !== 'mesh') return []
  return part.kind === 'collision' ? [COLLISION] : part.level > 0 ? [`level ${part.level}`] : []
}

/** Levels below the finest, and collision, that a file holds: by its own name or by those of its nodes. */
function marksOf(file: MeasuredFile): string[] {
  const { levels, collision } = partsOfMesh(nodesOf(file))
  return [
    ...markOfFile(file),
    ...[...levels.keys()].filter((level) => level > 0).map((level) => `level ${level}`),
    ...(collision.length > 0 ? [COLLISION] : []),
  ]
}

/** Collision and coarser levels inside a file that are not there now, each as a part that keeps its place. */
function missingParts(name: string, nodes: Nodes, own: ReadonlySet<string>): ScenePart[] {
  const { levels, collision } = partsOfMesh(nodes)
  return [
    ...[...levels]
      .filter(([level]) => level > 0 && !own.has(`level ${level}`))
      .map(([level, found]) => partOf(`${name}_lod${level}`, found)),
    ...(collision.length > 0 && !own.has(COLLISION) ? [partOf(`${name}_hull`, collision)] : []),
  ]
}

const partOf = (name: string, nodes: Parameters<typeof partsOfMesh>[0]): ScenePart => ({
  key: nodes[0]!.path,
  name,
  nodes: nodes.map((n) => n.path),
  copies: [],
  triangles: 0,
  vertices: 0,
  slots: [],
  levels: 1,
  collision: false,
  bounds: null,
  left: null,
  humanSize: false,
})
