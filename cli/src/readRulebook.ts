import { readFile } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import { bad, waiversFileSchema, type Rulebook, type Waiver } from '@stern-gate/contract'
import {
  checkRulebook,
  composeRulebook,
  defaultRulebook,
  isRecord,
  jsonTrouble,
  startingRulebooks,
} from '@stern-gate/core'
import { CannotRun } from './surroundings'

/** The rulebook's name where none is named: it is looked for from what is checked upward. */
export const RULEBOOK_FILE = 'stern-gate.json'
export const WAIVERS_FILE = 'waivers.json'
/** Files that go on in one another. */
const MOST_EXTENDED = 8

export interface ProjectRules {
  rulebook: Rulebook
  waivers: Waiver[]
  /** The file; null: the default rulebook. */
  file: string | null
}

/**
 * The rulebook to check by: the file that is named, else the nearest `stern-gate.json` above what is checked,
 * else the default. Its waivers stand in it or in a `waivers.json` beside it.
 */
export async function findRulebook(
  cwd: string,
  paths: readonly string[],
  named: string | undefined,
): Promise<ProjectRules> {
  const file = named === undefined ? await nearest(resolve(cwd, paths[0] ?? '.')) : resolve(cwd, named)
  if (file === null) return { rulebook: defaultRulebook, waivers: [], file: null }
  const { raw, own } = await readComposed(file, [])
  const { waivers: inside, ...said } = raw
  const rulebook = checkRulebook(said)
  if (!rulebook.ok) throw new CannotRun({ ...rulebook.fault, where: { file, ...rulebook.fault.where } })
  const beside = join(dirname(file), WAIVERS_FILE)
  return {
    rulebook: rulebook.value,
    waivers: [
      ...(own['waivers'] === undefined ? [] : checkWaivers({ waivers: inside }, file)),
      ...((await isThere(beside)) ? checkWaivers(await readJson(beside), beside) : []),
    ],
    file,
  }
}

/** Reads a rulebook alone. Throws CannotRun with the file and place. */
export const readRulebook = async (file: string): Promise<Rulebook> =>
  (await findRulebook(dirname(file), [], file)).rulebook

async function nearest(path: string): Promise<string | null> {
  for (let folder = path; ; folder = dirname(folder)) {
    const file = join(folder, RULEBOOK_FILE)
    if (await isThere(file)) return file
    if (dirname(folder) === folder) return null
  }
}

/** A file with what it extends below it. */
async function readComposed(
  file: string,
  above: readonly string[],
): Promise<{ raw: Record<string, unknown>; own: Record<string, unknown> }> {
  const own = await readJson(file)
  const base = own['extends']
  if (base === undefined) return { raw: composeRulebook({}, own), own }
  if (typeof base !== 'string' || above.includes(file) || above.length >= MOST_EXTENDED)
    throw new CannotRun(
      bad(
        'rulebook/invalid',
        typeof base === 'string'
          ? 'extends: the files go round in a circle.'
          : 'extends: a text is expected.',
        `Name one of ${Object.keys(startingRulebooks).join(', ')}, or another file.`,
        { file, part: 'extends' },
      ).fault,
    )
  const below = Object.hasOwn(startingRulebooks, base)
    ? startingRulebooks[base]
    : (await readComposed(resolve(dirname(file), base), [...above, file])).raw
  return { raw: composeRulebook(below, own), own }
}

const isThere = async (file: string): Promise<boolean> => (await readText(file)) !== null
const readText = (file: string): Promise<string | null> => readFile(file, 'utf8').catch(() => null)

async function readJson(file: string): Promise<Record<string, unknown>> {
  const text = await readText(file)
  if (text === null)
    throw new CannotRun(
      bad('file/not-found', 'The rulebook cannot be read.', 'Check the path.', { file }).fault,
    )
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    throw new CannotRun(
      bad('rulebook/invalid', `It is no JSON: ${jsonTrouble(text, error)}.`, 'Correct the file.', { file })
        .fault,
    )
  }
  if (isRecord(raw)) return raw
  throw new CannotRun(bad('rulebook/invalid', 'An object is expected.', 'Correct the file.', { file }).fault)
}

function checkWaivers(raw: unknown, file: string): Waiver[] {
  const parsed = waiversFileSchema.safeParse(raw)
  if (parsed.success) return parsed.data.waivers
  const issue = parsed.error.issues[0]!
  throw new CannotRun(
    bad('rulebook/invalid', `${issue.path.join('.')}: ${issue.message}`, 'Correct the named field.', {
      file,
      part: issue.path.join('.'),
    }).fault,
  )
}
