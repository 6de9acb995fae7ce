import { and, count, desc, eq } from 'drizzle-orm'
import { rulebookSchema, type Rulebook } from '@stern-gate/contract'
import { defaultRulebook, upgradeRulebook } from '@stern-gate/core'
import type { Database, Queryable, Transaction } from './database'
import { assets, projects, rulebookRevisions } from './schema'

export type ProjectRow = typeof projects.$inferSelect

/** Makes a project with the default rulebook as its first revision. */
export async function createProject(db: Database, name: string, by: string): Promise<ProjectRow> {
  return db.transaction(async (tx) => {
    const [project] = await tx
      .insert(projects)
      .values({ name, target: defaultRulebook.defaultTarget })
      .returning()
    await tx.insert(rulebookRevisions).values({
      projectId: project!.id,
      number: 1,
      author: by,
      note: 'the default rulebook',
      body: defaultRulebook,
    })
    return project!
  })
}

export const listProjects = (db: Queryable): Promise<ProjectRow[]> =>
  db.select().from(projects).orderBy(desc(projects.created))

export async function findProject(db: Queryable, id: string): Promise<ProjectRow | null> {
  const [project] = await db.select().from(projects).where(eq(projects.id, id))
  return project ?? null
}

export async function countAssets(db: Queryable, projectId: string): Promise<number> {
  const [row] = await db.select({ n: count() }).from(assets).where(eq(assets.projectId, projectId))
  return row?.n ?? 0
}

/** The rulebook that is in force; a row read back is a border, so it is parsed. */
export async function currentRulebook(db: Queryable, project: ProjectRow): Promise<Rulebook> {
  const [row] = await db
    .select({ body: rulebookRevisions.body })
    .from(rulebookRevisions)
    .where(
      and(
        eq(rulebookRevisions.projectId, project.id),
        eq(rulebookRevisions.number, project.rulebookRevision),
      ),
    )
  return rulebookSchema.parse(upgradeRulebook(row?.body))
}

/**
 * Puts a changed rulebook in force, as the next revision. The change is made to the one that is in force then:
 * two people who change different things at once both keep what they did. Null where another revision than the
 * expected one is in force; `then` is done in the same transaction.
 */
export async function reviseRulebook(
  db: Database,
  project: Pick<ProjectRow, 'id'>,
  change: (rulebook: Rulebook) => Rulebook,
  { by, note }: { by: string; note: string },
  more: { expected?: number; then?: (tx: Transaction, revised: ProjectRow) => Promise<void> } = {},
): Promise<ProjectRow | null> {
  return db.transaction(async (tx) => {
    // Not the key: rows that refer to the project are added meanwhile
    const [now] = await tx.select().from(projects).where(eq(projects.id, project.id)).for('no key update')
    if (more.expected !== undefined && now!.rulebookRevision !== more.expected) return null
    const number = now!.rulebookRevision + 1,
      body = change(await currentRulebook(tx, now!))
    await tx.insert(rulebookRevisions).values({ projectId: project.id, number, author: by, note, body })
    const [revised] = await tx
      .update(projects)
      .set({ rulebookRevision: number })
      .where(eq(projects.id, project.id))
      .returning()
    await more.then?.(tx, revised!)
    return revised!
  })
}

/** The newest revisions of a project's rulebook, with their bodies as they were kept. */
export const listRevisions = (
  db: Queryable,
  projectId: string,
  most: number,
): Promise<(typeof rulebookRevisions.$inferSelect)[]> =>
  db
    .select()
    .from(rulebookRevisions)
    .where(eq(rulebookRevisions.projectId, projectId))
    .orderBy(desc(rulebookRevisions.number))
    .limit(most)

/** One revision; null where there is none of that number. */
export async function findRevision(
  db: Queryable,
  projectId: string,
  number: number,
): Promise<typeof rulebookRevisions.$inferSelect | null> {
  const [row] = await db
    .select()
    .from(rulebookRevisions)
    .where(and(eq(rulebookRevisions.projectId, projectId), eq(rulebookRevisions.number, number)))
  return row ?? null
}
