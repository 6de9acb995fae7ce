import { sql } from 'drizzle-orm'
import {
  bigint,
  bigserial,
  boolean,
  index,
  integer,
  pgTable,
  primaryKey,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import {
  assetKind,
  deliveryState,
  filePart,
  fileState,
  findingLevel,
  namedKind,
  station,
  verdict,
  versionState,
} from './schemaEnums'
import { created, jsonb, text } from './schemaColumns'

export const projects = pgTable('projects', {
  id: uuid('id').primaryKey().defaultRandom(),
  name: text('name').notNull(),
  rulebookRevision: integer('rulebook_revision').notNull().default(1),
  /** Counts the changes of its waivers: what was judged by older ones is not kept. */
  waiversRevision: integer('waivers_revision').notNull().default(0),
  target: text('target').notNull(),
  created: created(),
})

export const rulebookRevisions = pgTable(
  'rulebook_revisions',
  {
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    author: text('author').notNull(),
    note: text('note').notNull().default(''),
    body: jsonb('body').notNull(),
    created: created(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.number] })],
)

export const deliveries = pgTable(
  'deliveries',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    note: text('note').notNull().default(''),
    by: text('by').notNull(),
    state: deliveryState('state').notNull(),
    /** Name and options of the intake preset that its assets are taken in by. */
    intake: jsonb('intake'),
    /** Name of a preset whose folder or generator fits it. */
    suggested: text('suggested'),
    created: created(),
  },
  (t) => [uniqueIndex('deliveries_number').on(t.projectId, t.number)],
)

/** Files of many objects, each with how it is taken apart and what it gave the last time. */
export const scenes = pgTable(
  'scenes',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    /** Name of the file without its extension, in small letters: a later export has the same. */
    key: text('key').notNull(),
    plan: jsonb('plan').notNull(),
    /** The file that was taken apart last; null: not yet. */
    path: text('path'),
    sha256: text('sha256'),
    factsKey: text('facts_key'),
    deliveryId: uuid('delivery_id').references(() => deliveries.id, { onDelete: 'set null' }),
    /** Parts of that file, with their placements. */
    parts: jsonb('parts').notNull().default([]),
    /** What differs from the export before; null: it was the first. */
    changes: jsonb('changes'),
    /** Why it could not be taken apart. */
    fault: jsonb('fault'),
    /** Counts the plans that were saved. */
    revision: integer('revision').notNull().default(1),
    created: created(),
  },
  (t) => [uniqueIndex('scenes_key').on(t.projectId, t.key)],
)

export const deliveryFiles = pgTable(
  'delivery_files',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    deliveryId: uuid('delivery_id')
      .notNull()
      .references(() => deliveries.id, { onDelete: 'cascade' }),
    path: text('path').notNull(),
    sha256: text('sha256'),
    sizeBytes: bigint('size_bytes', { mode: 'number' }).notNull(),
    /** Of the table of formats: a new one is no change of the schema. */
    kind: text('kind').notNull().default('unknown'),
    state: fileState('state').notNull(),
    fault: jsonb('fault'),
    factsKey: text('facts_key'),
    /** The scene that it was taken out of. */
    sceneId: uuid('scene_id').references(() => scenes.id, { onDelete: 'set null' }),
  },
  (t) => [
    uniqueIndex('delivery_files_path').on(t.deliveryId, t.path),
    index('delivery_files_state').on(t.deliveryId, t.state),
  ],
)

export const blobs = pgTable('blobs', {
  sha256: text('sha256').primaryKey(),
  sizeBytes: bigint('size_bytes', { mode: 'number' }).notNull(),
  kind: text('kind').notNull(),
  created: created(),
})

export const assets = pgTable(
  'assets',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    projectId: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    kind: assetKind('kind').notNull(),
    classChoice: text('class_choice'),
    targetChoice: text('target_choice'),
    currentVersion: integer('current_version').notNull(),
    /** The scene that it was taken out of. */
    sceneId: uuid('scene_id').references(() => scenes.id, { onDelete: 'set null' }),
    /** Where it came from, as a person said; null: nobody did. */
    origin: jsonb('origin'),
    /** To the millisecond, as pages know it: it is the place in the list that the next page starts after. */
    updated: timestamp('updated', { withTimezone: true, mode: 'string', precision: 3 })
      .notNull()
      .defaultNow(),
  },
  (t) => [
    uniqueIndex('assets_name').on(t.projectId, t.kind, t.name),
    index('assets_updated').on(t.projectId, t.updated, t.id),
  ],
)

export const versions = pgTable(
  'versions',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    assetId: uuid('asset_id')
      .notNull()
      .references(() => assets.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    deliveryId: uuid('delivery_id')
      .notNull()
      .references(() => deliveries.id),
    main: text('main').notNull(),
    by: text('by').notNull(),
    shownName: text('shown_name').notNull(),
    className: text('class_name').notNull(),
    tally: jsonb('tally').notNull(),
    /** A verdict counts only while it is judged. */
    state: versionState('state').notNull().default('waiting'),
    /** Why judging failed. */
    fault: jsonb('fault'),
    /** Version of the rules that judged it; older judgements are made anew. */
    judgedWith: integer('judged_with').notNull().default(0),
    verdict: verdict('verdict').notNull(),
    headline: text('headline').notNull().default(''),
    /** The new name that its findings offer for it: no other asset of the project is offered the same. */
    offered: text('offered'),
    /** Findings of the newest judgement, by level. */
    stops: integer('stops').notNull().default(0),
    cautions: integer('cautions').notNull().default(0),
    notes: integer('notes').notNull().default(0),
    /** Findings that a waiver accepts; in none of the counts above. */
    waived: integer('waived').notNull().default(0),
    /** What is safe to mend is mended once it is judged; it came by a preset that says so. */
    mendSafely: boolean('mend_safely').notNull().default(false),
    /** Stations with findings, a bit for each in their order. */
    stations: integer('stations').notNull().default(0),
    /** First part of the name, by which lists are sorted out. */
    family: text('family')
      .notNull()
      .generatedAlwaysAs(sql`coalesce(substring(shown_name from '^([a-z0-9]+)_'), 'other')`),
    thumbnail: text('thumbnail'),
    outputKey: text('output_key'),
    outputFault: jsonb('output_fault'),
    created: created(),
  },
  (t) => [
    uniqueIndex('versions_number').on(t.assetId, t.number),
    uniqueIndex('versions_delivery').on(t.assetId, t.deliveryId),
    index('versions_offered')
      .on(t.offered)
      .where(sql`${t.offered} is not null`),
    index('versions_unjudged')
      .on(t.id)
      .where(sql`${t.state} <> 'judged'`),
  ],
)

/** Everything of an asset's newest version that has a name, for the search. */
export const assetNames = pgTable(
  'asset_names',
  {
    assetId: uuid('asset_id')
      .notNull()
      .references(() => assets.id, { onDelete: 'cascade' }),
    what: namedKind('what').notNull(),
    name: text('name').notNull(),
  },
  (t) => [
    index('asset_names_asset').on(t.assetId),
    index('asset_names_letters').using('gin', sql`${t.name} gin_trgm_ops`),
    index('asset_names_begin').on(sql`left(lower(${t.name}), 40) text_pattern_ops`),
  ],
)

export const versionFiles = pgTable(
  'version_files',
  {
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    path: text('path').notNull(),
    part: filePart('part').notNull(),
    sha256: text('sha256').notNull(),
    sizeBytes: bigint('size_bytes', { mode: 'number' }).notNull(),
    kind: text('kind').notNull(),
    fault: jsonb('fault'),
    factsKey: text('facts_key'),
    /** Paths of the nodes that are this asset's, where a file holds several things; null: the whole file. */
    nodes: jsonb('nodes'),
  },
  (t) => [primaryKey({ columns: [t.versionId, t.path] })],
)

export const facts = pgTable(
  'facts',
  {
    /** Hash of what was measured. */
    key: text('key').notNull(),
    /** What of it: file, or the nodes or the mask that a piece of it is. */
    scope: text('scope').notNull().default('file'),
    measure: text('measure').notNull(),
    version: integer('version').notNull(),
    body: jsonb('body').notNull(),
    evidence: text('evidence'),
    thumbnail: text('thumbnail'),
    created: created(),
  },
  (t) => [primaryKey({ columns: [t.key, t.scope, t.measure, t.version] })],
)

export const recipes = pgTable('recipes', {
  assetId: uuid('asset_id')
    .primaryKey()
    .references(() => assets.id, { onDelete: 'cascade' }),
  revision: integer('revision').notNull().default(0),
  body: jsonb('body').notNull(),
  history: jsonb('history').notNull().default([]),
})

export const findings = pgTable(
  'findings',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    versionId: uuid('version_id')
      .notNull()
      .references(() => versions.id, { onDelete: 'cascade' }),
    rule: text('rule').notNull(),
    station: station('station').notNull(),
    level: findingLevel('level').notNull(),
    fingerprint: text('fingerprint').notNull(),
    /** A waiver accepts it. */
    waived: boolean('waived').notNull().default(false),
    /** Remedies that it offers, each once. */
    offers: text('offers').array().notNull().default([]),
    body: jsonb('body').notNull(),
  },
  (t) => [index('findings_version').on(t.versionId), index('findings_rule').on(t.rule)],
)

export const outputs = pgTable('outputs', {
  key: text('key').primaryKey(),
  /** The name that a step gave the asset; null: it keeps its own. */
  renamed: text('name'),
  main: text('main').notNull(),
  results: jsonb('results').notNull(),
  files: jsonb('files').notNull(),
  thumbnail: text('thumbnail'),
  evidence: text('evidence'),
  created: created(),
})

/** Textures as they were encoded, by source and settings; each can always be made again. */
export const encodings = pgTable(
  'encodings',
  {
    key: text('key').primaryKey(),
    /** Hash of the texture that was encoded. */
    source: text('source').notNull(),
    facts: jsonb('facts').notNull(),
    file: text('file').notNull(),
    picture: text('picture').notNull(),
    created: created(),
  },
  (t) => [index('encodings_source').on(t.source)],
)
