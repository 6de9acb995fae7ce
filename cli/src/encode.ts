import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import {
  bad,
  encodedFormats,
  encodingPlanSchema,
  textureRoles,
  type EncodedFormat,
  type EncodingFacts,
  type EncodingPlan,
  type Fault,
  type Rulebook,
  type TextureRole,
} from '@stern-gate/contract'
import { formatAt, isTextureKind, kindByExtension, roleOfName } from '@stern-gate/core'
import { findFiles, type Engine, type FoundFile } from '@stern-gate/engine'
import { findRulebook } from './readRulebook'
import { showProgress } from './showProgress'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'

export interface EncodeArguments {
  to?: string
  quality: string
  container: string
  role?: string
  mips: boolean
  into: string
  rulebook?: string
  target?: string
  format: string
}

interface Encoded {
  path: string
  written: string
  facts: EncodingFacts
}

/**
 * Encodes textures to block formats, by default to what the target stores their role in, and says what that loses.
 * Exit code 0: all were written; 1: some could not be encoded; 2: there is no texture.
 */
export async function encode(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: EncodeArguments,
): Promise<ExitCode> {
  const { rulebook } = await findRulebook(around.cwd, paths, options.rulebook)
  const { found } = await findFiles(paths, around.cwd)
  const textures = found.filter((f) => isTextureKind(kindByExtension(f.path)))
  if (textures.length === 0) {
    around.err('Nothing was encoded: there is no texture among these files.\n')
    return 2
  }
  const done: Encoded[] = [],
    refused: { path: string; fault: Fault }[] = []
  const progress = showProgress(around)
  for (const [n, texture] of textures.entries()) {
    progress.show(n, textures.length, texture.path)
    const plan = planFor(texture.path, rulebook, options)
    const made = await engine.encode({ file: texture.file, path: texture.path, cells: null }, plan)
    if (!made.ok) {
      refused.push({ path: texture.path, fault: made.fault })
      continue
    }
    const written = await writeInto(around, options.into, texture, plan, made.value.file)
    done.push({ path: texture.path, written, facts: made.value.facts })
  }
  progress.end()
  around.out(
    options.format === 'json'
      ? `${JSON.stringify({ encoded: done, refused }, null, 2)}\n`
      : encodingText(done, refused),
  )
  return refused.length > 0 ? 1 : 0
}

function planFor(path: string, rulebook: Rulebook, options: EncodeArguments): EncodingPlan {
  const role = chosen(options.role, textureRoles, '--role') ?? roleOfName(rulebook, path)
  const plan = encodingPlanSchema.safeParse({
    format: chosen(options.to, encodedFormats, '--to') ?? formatOf(rulebook, options.target, role),
    quality: options.quality,
    container: options.container,
    mips: options.mips,
    role,
  })
  if (plan.success) return plan.data
  throw wrong(
    '--quality and --container take fast, good or best, and ktx2 or dds.',
    'Leave them out for good and ktx2.',
  )
}

/** What a target stores a role in; where that is no block format, the best that every reader knows. */
export function formatOf(
  rulebook: Rulebook,
  name: string | undefined,
  role: TextureRole | null,
): EncodedFormat {
  const target = rulebook.targets[name ?? rulebook.defaultTarget]
  if (!target)
    throw wrong(
      `The rulebook has no target ${name}.`,
      `Choose one of: ${Object.keys(rulebook.targets).join(', ')}.`,
    )
  const format = formatAt(target, role)
  return encodedFormats.find((f) => f === format) ?? 'BC7'
}

/** Signs that are hard to type may be left out: `astc6x6` means ASTC 6×6. */
const plain = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('×', 'x')
    .replace(/[\s_-]/g, '')

export function chosen<T extends string>(
  text: string | undefined,
  from: readonly T[],
  option: string,
): T | null {
  if (text === undefined) return null
  const found = from.find((one) => plain(one) === plain(text))
  if (found) return found
  throw wrong(`${option} takes no ${text}.`, `Choose one of: ${from.join(', ')}.`)
}

export const wrong = (why: string, hint: string): CannotRun =>
  new CannotRun(bad('request/invalid', why, hint).fault)

async function writeInto(
  around: Surroundings,
  into: string,
  { path }: FoundFile,
  { container }: EncodingPlan,
  bytes: Uint8Array,
): Promise<string> {
  const name = `${path.replace(/\.[^./]*$/, '')}.${container}`
  const file = join(resolve(around.cwd, into), name)
  await mkdir(dirname(file), { recursive: true })
  await writeFile(file, bytes)
  return name
}

function encodingText(done: readonly Encoded[], refused: readonly { path: string; fault: Fault }[]): string {
  const lines = done.map(({ written, facts }) => {
    const { angle, psnrAll } = facts
    const error = angle
      ? `${angle.mean.toFixed(2)}° off, 95 % within ${angle.p95.toFixed(2)}°`
      : psnrAll === null
        ? 'exact'
        : `${psnrAll.toFixed(1)} dB`
    const levels = `${facts.levels} ${facts.levels === 1 ? 'level' : 'levels'}`,
      memory = `${(facts.memoryBytes / 1024).toFixed(0)} KiB in memory`
    return `  ${written}  ${facts.plan.format}, ${levels}, ${memory}, ${error}`
  })
  const stopped = refused.map(({ path, fault }) => `  ${path}: ${fault.why} ${fault.hint}`)
  return [
    `${done.length} ${done.length === 1 ? 'texture' : 'textures'} encoded:`,
    ...lines,
    ...(stopped.length > 0 ? ['Not encoded:', ...stopped] : []),
    '',
  ].join('\n')
}
