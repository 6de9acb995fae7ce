import { and, asc, eq } from 'drizzle-orm'
import { intakePresetSchema, type IntakePreset, type SaveIntakePreset } from '@stern-gate/contract'
import type { Queryable } from './database'
import { intakePresets } from './schema'

type Row = typeof intakePresets.$inferSelect
const replyOf = ({ id, name, options, generator, folder, mend, apart }: Row): IntakePreset =>
  intakePresetSchema.parse({ id, name, options, generator, folder, mend, apart })

export async function listIntakePresets(db: Queryable, projectId: string): Promise<IntakePreset[]> {
  return (
    await db
      .select()
      .from(intakePresets)
      .where(eq(intakePresets.projectId, projectId))
      .orderBy(asc(intakePresets.name))
  ).map(replyOf)
}

/** Saves a preset under its name; the same name again replaces it. */
export async function saveIntakePreset(
  db: Queryable,
  projectId: string,
  preset: SaveIntakePreset,
): Promise<IntakePreset> {
  const [row] = await db
    .insert(intakePresets)
    .values({ projectId, ...preset })
    .onConflictDoUpdate({ target: [intakePresets.projectId, intakePresets.name], set: preset })
    .returning()
  return replyOf(row!)
}

export async function findIntakePreset(
  db: Queryable,
  projectId: string,
  id: string,
): Promise<IntakePreset | null> {
  const [row] = await db
    .select()
    .from(intakePresets)
    .where(and(eq(intakePresets.projectId, projectId), eq(intakePresets.id, id)))
  return row ? replyOf(row) : null
}

/** Takes a preset out; recipes keep what it said. Gives false when there is none. */
export async function removeIntakePreset(db: Queryable, id: string): Promise<boolean> {
  return (
    (await db.delete(intakePresets).where(eq(intakePresets.id, id)).returning({ id: intakePresets.id }))
      .length > 0
  )
}

/** The preset whose folder or generator fits what came; of several the one that fits most narrowly. */
export function suggestedPreset(
  presets: readonly IntakePreset[],
  paths: readonly string[],
  generators: readonly string[],
): IntakePreset | null {
  const has = (list: readonly string[], part: string): boolean =>
    part !== '' && list.some((text) => text.toLowerCase().includes(part.toLowerCase()))
  const folders = paths.map((p) => `/${p.split('/').slice(0, -1).join('/')}/`)
  const fit = (p: IntakePreset): number =>
    Math.max(
      has(folders, p.folder) ? p.folder.length : 0,
      has(generators, p.generator) ? p.generator.length : 0,
    )
  return presets.filter((p) => fit(p) > 0).sort((a, b) => fit(b) - fit(a))[0] ?? null
}
