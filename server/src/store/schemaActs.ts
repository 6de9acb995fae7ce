import {
  bigint,
  bigserial,
  boolean,
  index,
  integer,
  pgTable,
  uniqueIndex,
  uuid,
  doublePrecision,
} from 'drizzle-orm/pg-core'
import { assets, projects } from './schemaAssets'
import { actState, dispatchState } from './schemaEnums'
import { created, jsonb, text } from './schemaColumns'

export const events = pgTable(
  'events',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    by: text('by').notNull().default(''),
    body: jsonb('body').notNull(),
    created: created(),
  },
  (t) => [index('events_project').on(t.projectId, t.id)],
)

export const bulkChanges = pgTable(
  'bulk_changes',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    by: text('by').notNull(),
    rule: text('rule').notNull(),
    remedy: text('remedy').notNull(),
    body: jsonb('body').notNull(),
    state: actState('state').notNull().default('done'),
    undone: boolean('undone').notNull().default(false),
    created: created(),
  },
  (t) => [index('bulk_changes_project').on(t.projectId, t.created)],
)

/** Packages that left: what was chosen, what became of it, and the manifest. */
export const dispatches = pgTable(
  'dispatches',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    note: text('note').notNull().default(''),
    by: text('by').notNull(),
    target: text('target').notNull(),
    state: dispatchState('state').notNull(),
    /** Ids of the assets that were chosen; null: all that are clear when it is packed. */
    chosen: jsonb('chosen'),
    /** Textures are encoded for the target, too. */
    encode: boolean('encode').notNull().default(false),
    /** How far packing is: assets done, of how many. */
    packed: integer('packed').notNull().default(0),
    total: integer('total').notNull().default(0),
    manifest: jsonb('manifest'),
    /** Assets that stayed behind, each with why. */
    held: jsonb('held').notNull().default([]),
    sha256: text('sha256'),
    sizeBytes: bigint('size_bytes', { mode: 'number' }),
    fault: jsonb('fault'),
    created: created(),
  },
  (t) => [uniqueIndex('dispatches_number').on(t.projectId, t.number)],
)

/** Findings that were accepted; a row goes when it is taken back. */
export const waivers = pgTable(
  'waivers',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    /** Asset of the scope; null where it reaches further. */
    assetId: uuid('asset_id').references(() => assets.id, { onDelete: 'cascade' }),
    rule: text('rule').notNull(),
    scope: jsonb('scope').notNull(),
    reason: text('reason').notNull(),
    /** Last day on which it holds, as 2026-01-31; null: without end. */
    until: text('until'),
    value: doublePrecision('value'),
    by: text('by').notNull(),
    /** Given together with others. */
    act: uuid('act').notNull(),
    /** The day for which the project was last judged with it: past its end it is judged once more. */
    judgedFor: text('judged_for'),
    created: created(),
  },
  (t) => [index('waivers_project').on(t.projectId, t.until), index('waivers_asset').on(t.assetId)],
)
