import { basename, dirname, relative, resolve } from 'node:path'
import { bad, type Fault } from '@stern-gate/contract'
import { isMeshName } from '@stern-gate/core'
import {
  completeMeasurements,
  createFactsCache,
  findFiles,
  measureFiles,
  type Engine,
  type FoundFile,
  type MeasuredFiles,
} from '@stern-gate/engine'
import { cacheFolder } from './cacheFolder'
import { openArchives } from './openArchives'
import { findRulebook, RULEBOOK_FILE, WAIVERS_FILE, type ProjectRules } from './readRulebook'
import { showProgress } from './showProgress'
import { CannotRun, type Surroundings } from './surroundings'

/** Arguments that every command has which measures files for a rulebook. */
export interface MeasureArguments {
  rulebook?: string
  target?: string
  class?: string
  cache: string | boolean
  validate?: boolean
}

/** What was measured, and by which rules it is to be judged. */
export interface MeasuredForRules {
  measured: MeasuredFiles
  rules: ProjectRules
  target: string
  /** The class that all are to be judged by; null: each by its own. */
  classChoice: string | null
  files: FoundFile[]
  refused: readonly Fault[]
  close: () => Promise<void>
}

/** Finds and measures files and folders by the arguments that every such command has. */
export async function measureAll(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: MeasureArguments,
): Promise<MeasuredForRules> {
  const rules = await findRulebook(around.cwd, paths, options.rulebook),
    { rulebook } = rules
  const target = options.target ?? rulebook.defaultTarget
  known(rulebook.targets, target, '--target')
  if (options.class !== undefined) known(rulebook.classes, options.class, '--class')
  const { found: all, missing } = await findFiles(paths, around.cwd)
  if (missing.length > 0)
    throw new CannotRun(
      bad('file/not-found', `There is no file or folder ${missing[0]}.`, 'Check the path.', {
        file: missing[0]!,
      }).fault,
    )
  // The project's own words about its files are none of them
  const found = all.filter((f) => !OWN_FILES.includes(basename(f.file)))
  if (found.length === 0)
    throw new CannotRun(
      bad('file/not-found', 'The folders hold no files.', 'Name files or folders with meshes and textures.')
        .fault,
    )
  const progress = showProgress(around)
  const archives = await openArchives(found)
  const beside = await filesBeside(found, around.cwd)
  const measured = await measureFiles(engine, archives.files, beside, {
    progress: progress.show,
    validate: options.validate === true,
    ...(options.cache === false
      ? {}
      : {
          cache: createFactsCache(
            typeof options.cache === 'string' ? resolve(around.cwd, options.cache) : cacheFolder(),
          ),
        }),
  })
  const placed = new Map([...archives.files, ...beside].map((f) => [f.path, f.file]))
  const files = await completeMeasurements(
    engine,
    measured.files,
    { rulebook, target, classChoice: options.class ?? null },
    { fileOf: (path) => placed.get(path), keep: measured.keep, show: progress.show },
  )
  progress.end()
  return {
    measured: { ...measured, files },
    rules,
    target,
    classChoice: options.class ?? null,
    files: [...archives.files, ...beside],
    refused: archives.refused,
    close: archives.close,
  }
}

const OWN_FILES = [RULEBOOK_FILE, WAIVERS_FILE]

/** What lies in the folders of meshes that were named by themselves, for their references. */
export async function filesBeside(found: readonly FoundFile[], cwd: string): Promise<FoundFile[]> {
  const folders = new Set(found.filter((f) => isMeshName(f.path)).map((f) => dirname(f.file)))
  const beside = await Promise.all([...folders].map((folder) => findFiles([folder], folder)))
  return beside
    .flatMap((b) => b.found)
    .map((b) => {
      const inside = !relative(cwd, b.file).startsWith('..')
      return inside ? { ...b, path: relative(cwd, b.file).replaceAll('\\', '/') } : b
    })
}

function known(names: object, name: string, option: string): void {
  if (!(name in names))
    throw new CannotRun(
      bad(
        'request/invalid',
        `The rulebook has no ${name}.`,
        `Choose one of: ${Object.keys(names).join(', ')}.`,
        { part: option },
      ).fault,
    )
}

/** By which rulebook, target and class files are judged. */
export const settingsOf = ({ rules, target, classChoice }: MeasuredForRules) => ({
  rulebook: rules.rulebook,
  target,
  classChoice,
})
