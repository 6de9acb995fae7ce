import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import {
  encodedFormats,
  encodingPlanSchema,
  textureRoles,
  type EncodingFacts,
  type EncodingPlan,
  type Fault,
  type Rulebook,
} from '@stern-gate/contract'
import { roleOfName } from '@stern-gate/core'
import type { Engine, FoundFile } from '@stern-gate/engine'
import { showProgress } from './showProgress'
import type { ExitCode, Surroundings } from './surroundings'
import { chosen, decibelText, findTextures, formatOf, wrong } from './textureArguments'

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
  const { rulebook, textures } = await findTextures(around, paths, options.rulebook)
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
      : decibelText(psnrAll)
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
