import { and, count, desc, eq } from 'drizzle-orm'
import { rulebookSchema, type Rulebook } from '@stern-gate/contract'
import { defaultRulebook, upgradeRulebook } from '@stern-gate/core'
import type { Database, Queryable } from './database'
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
 * two people who change different things at once both keep what they did.
 */
export async function reviseRulebook(
  db: Database,
  project: Pick<ProjectRow, 'id'>,
  change: (rulebook: Rulebook) => Rulebook,
  { by, note }: { by: string; note: string },
): Promise<ProjectRow> {
  return db.transaction(async (tx) => {
    const [now] = await tx.select().from(projects).where(eq(projects.id, project.id)).for('update')
    const number = now!.rulebookRevision + 1,
      body = change(await currentRulebook(tx, now!))
    await tx.insert(rulebookRevisions).values({ projectId: project.id, number, author: by, note, body })
    const [revised] = await tx
      .update(projects)
      .set({ rulebookRevision: number })
      .where(eq(projects.id, project.id))
      .returning()
    return revised!
  })
}
