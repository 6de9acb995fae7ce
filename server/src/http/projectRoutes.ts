import type { Router } from 'express'
import { projectSchema, type Project, routes } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import type { Services } from '../services/services'
import type { Queryable } from '../store/database'
import {
  countAssets,
  createProject,
  currentRulebook,
  findProject,
  listProjects,
  reviseRulebook,
  type ProjectRow,
} from '../store/projects'
import { answering } from './answer'
import { notFound } from './faults'

export function projectRoutes({ connection: { db } }: Services): Router {
  const reply = (row: ProjectRow): Promise<Project> => projectReply(db, row)
  const { router, on } = answering()
  on(routes.listProjects, async () => Promise.all((await listProjects(db)).map(reply)))
  on(routes.createProject, async ({ body }) => {
    const { name } = body
    return reply(await createProject(db, name, localPerson.name))
  })
  on(routes.saveSizes, async ({ parts, body }) => {
    const row = await projectOf(db, parts.project),
      sizes = body
    const revised = await reviseRulebook(
      db,
      row,
      (rulebook) => ({
        ...rulebook,
        personHeight: sizes.personHeight ?? rulebook.personHeight,
        gridStep: sizes.gridStep === undefined ? rulebook.gridStep : sizes.gridStep,
      }),
      { by: localPerson.name, note: 'sizes to compare by' },
    )
    return reply(revised!)
  })
  on(routes.getProject, async ({ parts }) => reply(await projectOf(db, parts.project)))
  return router
}

/** The project that an address names. */
export async function projectOf(db: Queryable, id: unknown): Promise<ProjectRow> {
  const row = await findProject(db, uuid(id))
  if (!row) throw notFound('project')
  return row
}

/** An id from the address; anything that is none finds nothing. */
export function uuid(text: unknown): string {
  if (typeof text !== 'string' || !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(text))
    throw notFound('thing')
  return text
}

/** A project as the API shows it. */
export async function projectReply(db: Queryable, row: ProjectRow): Promise<Project> {
  const rulebook = await currentRulebook(db, row)
  const titles = (of: Record<string, { title: string }>) =>
    Object.entries(of).map(([id, { title }]) => ({ id, title }))
  return projectSchema.parse({
    id: row.id,
    name: row.name,
    target: row.target,
    rulebookRevision: row.rulebookRevision,
    assets: await countAssets(db, row.id),
    created: new Date(row.created).toISOString(),
    targets: titles(rulebook.targets),
    classes: titles(rulebook.classes),
    terms: titles(rulebook.terms),
    personHeight: rulebook.personHeight,
    gridStep: rulebook.gridStep,
    patterns: rulebook.patterns,
  })
}
