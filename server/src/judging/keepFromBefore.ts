import { bad, type Outcome, type ScenePart } from '@stern-gate/contract'
import { partsOfMesh, planOf, type MeasuredFile } from '@stern-gate/core'
import { findAmong, forApart } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { findVersion, listVersionFiles, type AssetRecord } from '../store/assets'
import type { GivenFile } from '../store/deliveries'
import { findOutput } from '../store/outputs'
import { loadState } from './loadState'

/**
 * Files for the levels and the collision that the version before had and the newest has not, taken out of what was
 * handed on then; each stands where it stood. With the files of the newest version they are its next one. Faults:
 * request/conflict where nothing is to be kept, those of reading.
 */
export async function keepFromBefore(
  services: JobServices,
  asset: AssetRecord,
): Promise<Outcome<GivenFile[]>> {
  const { db } = services.connection
  const now = await findVersion(db, asset.id, asset.currentVersion),
    before = await findVersion(db, asset.id, asset.currentVersion - 1)
  if (!now || !before) return nothing
  const newest = await listVersionFiles(db, now.id)
  const here = await loadState(db, { asset, version: now, files: newest }, null)
  const output = before.outputKey === null ? null : await findOutput(db, before.outputKey)
  const files = output?.files ?? (await listVersionFiles(db, before.id))
  const there = await loadState(
    db,
    { asset, version: before, files: output ? [] : await listVersionFiles(db, before.id) },
    output,
  )
  const placed = files.map((f) => ({ path: f.path, file: services.store.localFile(f.sha256) }))
  const kept: GivenFile[] = newest.map(({ path, sha256, sizeBytes, kind }) => ({
    path,
    sha256,
    sizeBytes,
    kind,
  }))
  let added = 0
  for (const file of there.files) {
    const nodes = file.facts?.kind === 'mesh' ? (file.facts.nodes ?? []) : []
    const parts = missingParts(asset.name, nodes, nodesOf(here.files))
    if (parts.length === 0) continue
    const taken = await services.engine.takeApart(
      {
        path: now.main,
        file: placed.find((p) => p.path === file.path)!.file,
        nodes: nodes.map(forApart),
        parts,
        plan: { ...planOf('nodes'), pivot: 'scene' },
      },
      findAmong(placed),
    )
    if (!taken.ok) return taken
    for (const piece of taken.value.files) {
      const stored = await services.store.putBytes(piece.bytes)
      kept.push({
        path: piece.path,
        sha256: stored.sha256,
        sizeBytes: stored.sizeBytes,
        kind: piece.part === 'mesh' ? 'glb' : 'unknown',
      })
      added++
    }
  }
  return added > 0 ? { ok: true, value: kept } : nothing
}

const nothing = bad(
  'request/conflict',
  'The version before has no levels and no collision that this one lacks.',
  'Clips and skins belong to the mesh that they move: deliver them with it.',
)

type Nodes = NonNullable<Extract<MeasuredFile['facts'], { kind: 'mesh' }>['nodes']>
const nodesOf = (files: readonly MeasuredFile[]): Nodes =>
  files.flatMap((f) => (f.facts?.kind === 'mesh' ? (f.facts.nodes ?? []) : []))

/** Collision and coarser levels that one has and the other has not, each as a part that keeps its place. */
function missingParts(name: string, before: Nodes, now: Nodes): ScenePart[] {
  const old = partsOfMesh(before),
    own = partsOfMesh(now)
  const levels = [...old.levels].slice(1).filter(([level]) => !own.levels.has(level))
  return [
    ...levels.map(([level, nodes]) => partOf(`${name}_lod${level}`, nodes)),
    ...(own.collision.length === 0 && old.collision.length > 0
      ? [partOf(`${name}_hull`, old.collision)]
      : []),
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
