import { mkdir, stat, writeFile } from 'node:fs/promises'
import { basename, dirname, join, resolve } from 'node:path'
import { bad, type Recipe, type RemedyOptions, formatWords } from '@stern-gate/contract'
import {
  DATA,
  FILE_KIND_BYTES,
  fileKind,
  fileStem,
  isMeshName,
  extensionOf,
  kindByExtension,
  resolveReference,
  type SourceFile,
} from '@stern-gate/core'
import { findAmong, findFiles, hashFile, type Engine } from '@stern-gate/engine'
import { filesBeside } from './measureForRules'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'

export interface RemedyArguments {
  do: string[]
  out: string
}

/**
 * Applies steps to a mesh or texture. The main file goes to --out; textures that stand beside a mesh go
 * beside it there.
 */
export async function remedy(
  engine: Engine,
  around: Surroundings,
  path: string,
  options: RemedyArguments,
): Promise<ExitCode> {
  const {
    found: [file],
  } = await findFiles([path], around.cwd)
  if (!file)
    throw new CannotRun(
      bad('file/not-found', `There is no file ${path}.`, 'Check the path.', { file: path }).fault,
    )
  const recipe: Recipe = {
    steps: options.do.map((step, i) => ({
      id: `step-${i}`,
      on: true,
      why: 'command line',
      ...parseStep(step),
    })),
  }
  const stepData = await keptData(recipe, around.cwd)
  const mesh = isMeshName(file.path)
  const others = mesh ? await referenced(engine, file, await filesBeside([file], around.cwd)) : []
  const done = await engine.mend(
    {
      name: fileStem(file.path),
      assetKind: mesh ? 'mesh' : 'texture-set',
      main: file.path,
      files: [{ path: file.path, part: mesh ? 'mesh' : 'texture', file: file.file }, ...others],
    },
    recipe,
    { stepData },
  )
  if (!done.ok) throw new CannotRun(done.fault)
  const out = resolve(around.cwd, options.out)
  const main = done.value.files.find((f) => f.path === done.value.main)
  if (main) checkName(options.out, main.bytes)
  await mkdir(dirname(out), { recursive: true })
  for (const result of done.value.files) {
    const main = result.path === done.value.main
    const target = main ? out : join(dirname(out), relativeTo(dirname(done.value.main), result.path))
    await mkdir(dirname(target), { recursive: true })
    await writeFile(target, result.bytes)
    around.out(`${target}\n`)
  }
  for (const result of done.value.results)
    around.err(`${result.changed ? 'done' : 'nothing to do'}: ${result.remedy}: ${result.said}\n`)
  return 0
}

/** Puts the SHA-256 of a file into a step whose option `data` names one by its path. */
async function keptData(recipe: Recipe, cwd: string): Promise<{ sha256: string; file: string }[]> {
  const kept: { sha256: string; file: string }[] = []
  for (const { options } of recipe.steps) {
    if (typeof options[DATA] !== 'string') continue
    const file = resolve(cwd, options[DATA])
    const found = await stat(file).catch(() => null)
    if (!found?.isFile())
      throw new CannotRun(
        bad('file/not-found', `There is no file ${options[DATA]}.`, 'Check the path.', { file }).fault,
      )
    const sha256 = await hashFile(file, found.size)
    options[DATA] = sha256
    kept.push({ sha256, file })
  }
  return kept
}

/** A name that says another format than is written would be taken for damaged by whoever reads it. */
function checkName(out: string, bytes: Uint8Array): void {
  const is = fileKind(bytes.subarray(0, FILE_KIND_BYTES), out),
    says = kindByExtension(out)
  if (is !== says && is !== 'unknown')
    throw new CannotRun(
      bad(
        'request/invalid',
        `What is written is ${formatWords(is)}, and the name ${basename(out)} says something else.`,
        `Write --out ${fileStem(out)}${extensionOf(is)}, for example.`,
        { part: '--out' },
      ).fault,
    )
}

/** Beside the mesh as it was; what lay above its folder comes into it. */
const relativeTo = (folder: string, path: string): string =>
  folder === '.' ? path : path.startsWith(`${folder}/`) ? path.slice(folder.length + 1) : basename(path)

async function referenced(
  engine: Engine,
  file: { path: string; file: string; sizeBytes: number },
  beside: { path: string; file: string }[],
): Promise<{ path: string; part: SourceFile['part']; file: string }[]> {
  const others = beside.filter((b) => b.file !== file.file).map(({ path, file: f }) => ({ path, file: f }))
  const { measured } = await engine.measure(
    {
      path: file.path,
      file: file.file,
      sha256: await hashFile(file.file, file.sizeBytes),
      sizeBytes: file.sizeBytes,
    },
    findAmong(others),
  )
  if (measured.fault || measured.facts?.kind !== 'mesh')
    throw new CannotRun(
      measured.fault ?? bad('file/unsupported', 'It is no mesh.', 'Name a mesh or a texture.').fault,
    )
  const paths = others.map((o) => o.path)
  const parts = new Map<string, SourceFile['part']>()
  const { buffers, companions, images } = measured.facts.file
  for (const [asked, part] of [
    ...[...buffers, ...companions].map((b) => [b.uri, 'buffer'] as const),
    ...images.map((i) => [i.uri, 'texture'] as const),
  ]) {
    const found = asked === null ? null : resolveReference(asked, paths)
    if (found) parts.set(found.path, part)
  }
  return others.flatMap((o) => (parts.has(o.path) ? [{ ...o, part: parts.get(o.path)! }] : []))
}

/** Reads `remedy:option=value,…`; numbers and true, false, null are taken as such. */
export function parseStep(text: string): { remedy: string; options: RemedyOptions } {
  const colon = text.indexOf(':')
  if (colon < 0) return { remedy: text, options: {} }
  const options: RemedyOptions = {}
  for (const pair of text.slice(colon + 1).split(',')) {
    const equals = pair.indexOf('=')
    if (equals < 1)
      throw new CannotRun(
        bad(
          'request/invalid',
          `“${pair}” is no option=value.`,
          'Write --do remedy:option=value,option=value.',
          { part: '--do' },
        ).fault,
      )
    options[pair.slice(0, equals)] = parseValue(pair.slice(equals + 1))
  }
  return { remedy: text.slice(0, colon), options }
}

const words: Record<string, boolean | null> = { true: true, false: false, null: null }

function parseValue(text: string): string | number | boolean | null {
  if (text in words) return words[text]!
  return text !== '' && Number.isFinite(Number(text)) ? Number(text) : text
}
