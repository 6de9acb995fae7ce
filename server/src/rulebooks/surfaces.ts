import {
  bad,
  type ProjectSurface,
  recipeSchema,
  type Rulebook,
  type SharedSurface,
} from '@stern-gate/contract'
import { checkRulebook, resolveSurface, sharedOf, surfacesBehind } from '@stern-gate/core'
import { and, eq, sql } from 'drizzle-orm'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import type { Queryable } from '../store/database'
import { addEvent } from '../store/eventLog'
import { addJudgingOfMany } from '../store/jobQueue'
import { currentRulebook, reviseRulebook, type ProjectRow } from '../store/projects'
import { assets, recipes } from '../store/schemaAssets'
import { markUnjudged } from '../store/versionStates'
import { FaultReply } from '../trouble/faultReply'
import type { LibraryRoom } from './libraryRoom'

interface User {
  asset: string
  name: string
  slot: string
  surface: string
}

/** Slots whose recipes say that they follow a surface of the project. */
async function listUsers(db: Queryable, projectId: string): Promise<User[]> {
  const rows = await db
    .select({ asset: assets.id, name: assets.name, body: recipes.body })
    .from(recipes)
    .innerJoin(assets, eq(assets.id, recipes.assetId))
    .where(
      and(
        eq(assets.projectId, projectId),
        sql`jsonb_path_exists(${recipes.body}, '$.steps[*].options.shared ? (@.type() == "string")')`,
      ),
    )
  return rows.flatMap(({ asset, name, body }) =>
    recipeSchema.parse(body).steps.flatMap((step) => {
      const surface = step.on ? sharedOf(step) : null
      return surface === null ? [] : [{ asset, name, slot: String(step.options['slot']), surface }]
    }),
  )
}

/** The surfaces of a project with who follows them. */
export async function projectSurfaces(db: Queryable, project: ProjectRow): Promise<ProjectSurface[]> {
  const { surfaces } = await currentRulebook(db, project),
    users = await listUsers(db, project.id)
  return Object.entries(surfaces)
    .map(([name, surface]) => {
      const resolved = resolveSurface(surfaces, name)
      return {
        name,
        surface,
        preset: resolved?.preset ?? null,
        values: resolved?.values ?? {},
        users: users
          .filter((u) => u.surface === name)
          .map(({ asset, name: of, slot }) => ({ asset, name: of, slot }))
          .sort((a, b) => (a.name < b.name ? -1 : 1)),
        followers: Object.keys(surfaces).filter((other) => surfaces[other]!.follows === name),
      }
    })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
}

/** Assets that follow a surface which comes to something else in another rulebook. */
export async function assetsOfChangedSurfaces(
  db: Queryable,
  projectId: string,
  before: Rulebook,
  after: Rulebook,
): Promise<string[]> {
  const comesTo = ({ surfaces }: Rulebook, name: string): string =>
    JSON.stringify(resolveSurface(surfaces, name))
  const names = new Set([...Object.keys(before.surfaces), ...Object.keys(after.surfaces)])
  const changed = new Set([...names].filter((name) => comesTo(before, name) !== comesTo(after, name)))
  if (changed.size === 0) return []
  const users = await listUsers(db, projectId)
  return [...new Set(users.filter((u) => changed.has(u.surface)).map((u) => u.asset))]
}

/**
 * Adds, changes or takes out one surface as a revision of the rulebook, and has what follows it made and judged anew;
 * one transaction. Throws a conflict for one that is still followed, and what is wrong with the values.
 */
export async function saveSurface(
  { connection: { db } }: Pick<JobServices, 'connection'>,
  room: LibraryRoom,
  project: ProjectRow,
  name: string,
  surface: SharedSurface | null,
): Promise<ProjectRow> {
  if (surface === null) await refuseWhereFollowed(db, project, name)
  let before: Rulebook | null = null,
    after: Rulebook | null = null
  const revised = await reviseRulebook(
    db,
    project,
    (rulebook) => {
      const { [name]: _, ...others } = rulebook.surfaces
      before = rulebook
      after = checked({ ...rulebook, surfaces: surface === null ? others : { ...others, [name]: surface } })
      return after
    },
    { by: localPerson.name, note: `Surface ${name}${surface === null ? ' taken out' : ''}` },
    {
      then: async (tx, row) => {
        const changed = await assetsOfChangedSurfaces(tx, project.id, before!, after!)
        await markUnjudged(tx, changed)
        await addJudgingOfMany(tx, project.id, changed)
        await addEvent(tx, project.id, { kind: 'rulebook', revision: row.rulebookRevision }, localPerson.name)
      },
    },
  )
  room.forget(project.id)
  return revised!
}

function checked(rulebook: Rulebook): Rulebook {
  const read = checkRulebook(rulebook)
  if (read.ok) return read.value
  throw new FaultReply(read.fault)
}

async function refuseWhereFollowed(db: Queryable, project: ProjectRow, name: string): Promise<void> {
  const { surfaces } = await currentRulebook(db, project)
  const slots = (await listUsers(db, project.id)).filter((u) => u.surface === name)
  const others = Object.keys(surfaces).filter((other) => surfacesBehind(surfaces, other)[0] === name)
  if (slots.length + others.length === 0) return
  const who = [...slots.map((u) => `${u.name} (${u.slot})`), ...others].slice(0, 4).join(', ')
  throw new FaultReply(
    bad(
      'request/conflict',
      `${slots.length + others.length} still follow ${name}: ${who}.`,
      'Give them another surface first.',
    ).fault,
  )
}
