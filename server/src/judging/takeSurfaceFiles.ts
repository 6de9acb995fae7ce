import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { bad, type Fault } from '@stern-gate/contract'
import {
  readSurfaceFile,
  wearersOf,
  withSurfaceFile,
  type AssetDraft,
  type CameSurface,
  type WearingMesh,
} from '@stern-gate/core'
import type { JobServices } from '../services/services'
import { getRecipe, saveRecipe } from '../store/assets'
import { setFilesAside, type DeliveryFileRow, type DeliveryRow } from '../store/deliveries'
import { findFacts } from '../store/factsStore'
import { lockAssets } from '../store/versionStates'

/** An asset that a delivery brought. */
export interface BroughtAsset {
  draft: AssetDraft
  asset: string
  factsKey: string | null
}

/**
 * Gives slots what surface files of the delivery say, as steps of recipes, and notes with each file where it went.
 * Run twice it changes nothing.
 */
export async function takeSurfaceFiles(
  { connection: { db }, store }: Pick<JobServices, 'connection' | 'store'>,
  delivery: DeliveryRow,
  rows: readonly DeliveryFileRow[],
  brought: readonly BroughtAsset[],
): Promise<void> {
  const came: CameSurface[] = []
  for (const { path, sha256, state, kind } of rows) {
    if (kind !== 'surface' || sha256 === null || !['measured', 'set-aside'].includes(state)) continue
    const read = readSurfaceFile(await readFile(store.localFile(sha256), 'utf8'))
    if (read.ok) came.push({ path, file: read.value })
  }
  if (came.length === 0) return
  const meshes = await wearingMeshes(db, brought)
  const aside: { path: string; fault: Fault }[] = []
  await db.transaction(async (tx) => {
    const worn = came.map((surface) => ({ surface, by: wearersOf(surface, meshes) }))
    await lockAssets(tx, [...new Set(worn.flatMap(({ by }) => by.map((m) => m.asset)))])
    for (const { surface, by } of worn) {
      for (const mesh of by) {
        const now = await getRecipe(tx, mesh.asset)
        const next = withSurfaceFile(now.recipe, surface, mesh, randomUUID)
        if (next !== now.recipe)
          await saveRecipe(tx, mesh.asset, now.revision, next, [...now.history, now.recipe])
      }
      aside.push({ path: surface.path, fault: whereItWent(surface, by) })
    }
    await setFilesAside(tx, delivery.id, aside)
  })
}

type Wearing = WearingMesh & { asset: string }

async function wearingMeshes(
  db: JobServices['connection']['db'],
  brought: readonly BroughtAsset[],
): Promise<Wearing[]> {
  const meshes = brought.filter((b) => b.draft.kind === 'mesh' && b.factsKey !== null)
  const known = await findFacts(
    db,
    meshes.map((b) => b.factsKey!),
  )
  return meshes.flatMap(({ draft, asset, factsKey }) => {
    const facts = known.get(factsKey!)?.kept.facts
    if (facts?.kind !== 'mesh' || !facts.slots) return []
    const textures = draft.files.filter((f) => f.part === 'texture').map((f) => f.path)
    return [
      { asset, name: draft.name, path: draft.main, slots: facts.slots, images: facts.file.images, textures },
    ]
  })
}

function whereItWent({ path, file }: CameSurface, by: readonly Wearing[]): Fault {
  const where = { file: path, slot: file.slot }
  return by.length > 0
    ? bad(
        'file/surface-taken',
        `Slot ${file.slot} of ${by.map((m) => m.name).join(', ')} has its surface.`,
        'It stands in the recipe, as steps that can be changed or switched off.',
        where,
      ).fault
    : bad(
        'file/surface-without-slot',
        `No mesh that came with it has a slot called ${file.slot}.`,
        'Bring it together with its mesh, or read it at Slots into a slot of your choice.',
        where,
      ).fault
}
