import { stations, type Tally } from '@stern-gate/contract'
import { takeInAssets } from '../store/arrivingAssets'
import { lockRecipes, saveRecipes, type BulkBody } from '../store/bulkChanges'
import type { Transaction } from '../store/database'
import { takeFileOut } from '../store/pairings'

/** Takes textures out of meshes whose recipe went back. */
export async function takeOutJoined(
  tx: Transaction,
  { joined }: BulkBody,
  back: ReadonlySet<string>,
): Promise<void> {
  for (const { asset, version, path } of joined) if (back.has(asset)) await takeFileOut(tx, version, path)
}

/** Makes texture sets again that were emptied; gives their ids. */
export async function restoreSets(tx: Transaction, projectId: string, body: BulkBody): Promise<string[]> {
  const made: string[] = []
  for (const set of body.emptied) {
    const ids = await takeInAssets(tx, projectId, set.delivery, [
      {
        name: set.name,
        kind: 'texture-set',
        files: set.files,
        version: {
          main: set.main,
          by: set.by,
          shownName: set.name,
          className: '',
          tally: noTally,
          verdict: 'clear',
          created: set.created,
        },
      },
    ])
    const held = (await lockRecipes(tx, projectId, ids)).get(ids[0]!)
    if (held && set.recipe.steps.length > 0)
      await saveRecipes(tx, new Map([[ids[0]!, { ...held, recipe: set.recipe }]]))
    made.push(...ids)
  }
  return made
}

const noTally = Object.fromEntries(stations.map((s) => [s, { state: 'none', count: 0 }])) as Tally
