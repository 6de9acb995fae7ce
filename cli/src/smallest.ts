import { writeFile } from 'node:fs/promises'
import { resolve } from 'node:path'
import {
  encodedFormats,
  formatWishSchema,
  kindOfFormat,
  textureRoles,
  type Fault,
  type FormatSearch,
  type FormatWish,
  type Rulebook,
} from '@stern-gate/contract'
import { roleOfName } from '@stern-gate/core'
import type { Engine } from '@stern-gate/engine'
import { showProgress } from './showProgress'
import type { ExitCode, Surroundings } from './surroundings'
import { chosen, decibelText, findTextures, formatOf, wrong } from './textureArguments'

export interface SmallestArguments {
  least: string
  degrees: string
  among?: string
  role?: string
  rulebook?: string
  target?: string
  format: string
  out?: string
}

interface Found {
  path: string
  role: FormatWish['role']
  search: FormatSearch
}

/**
 * Looks for the smallest format and size that keep each texture as near to its source as is wanted, and says how many
 * bytes that takes; no texture is written. Exit code 0: one was found for all; 1: not for all; 2: there is no texture.
 */
export async function smallest(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: SmallestArguments,
): Promise<ExitCode> {
  const { rulebook, textures } = await findTextures(around, paths, options.rulebook)
  if (textures.length === 0) {
    around.err('Nothing was looked at: there is no texture among these files.\n')
    return 2
  }
  const done: Found[] = [],
    refused: { path: string; fault: Fault }[] = []
  const progress = showProgress(around)
  for (const [n, { path, file }] of textures.entries()) {
    progress.show(n, textures.length, path)
    const wish = wishFor(path, rulebook, options)
    const search = await engine.search({ file, path, cells: null }, wish)
    if (search.ok) done.push({ path, role: wish.role, search: search.value })
    else refused.push({ path, fault: search.fault })
  }
  progress.end()
  const text =
    options.format === 'json'
      ? `${JSON.stringify({ found: done, refused }, null, 2)}\n`
      : smallestText(done, refused)
  if (options.out === undefined) around.out(text)
  else await writeFile(resolve(around.cwd, options.out), text)
  return refused.length > 0 || done.some((d) => d.search.best === null) ? 1 : 0
}

/** What is wanted of a texture: among the formats that are named, or those of the kind that its target takes. */
function wishFor(path: string, rulebook: Rulebook, options: SmallestArguments): FormatWish {
  const role = chosen(options.role, textureRoles, '--role') ?? roleOfName(rulebook, path)
  const kind = kindOfFormat(formatOf(rulebook, options.target, role))
  const formats =
    options.among === undefined
      ? encodedFormats.filter((f) => kind.has(f))
      : options.among.split(',').map((name) => chosen(name, encodedFormats, '--among')!)
  const wish = formatWishSchema.safeParse({
    formats,
    role,
    least: Number(options.least),
    degrees: Number(options.degrees),
  })
  if (wish.success) return wish.data
  throw wrong(
    '--least takes dB from 0 to 120, --degrees takes 0.05 to 45.',
    'Leave them out for 40 dB and 2 degrees.',
  )
}

function smallestText(done: readonly Found[], refused: readonly { path: string; fault: Fault }[]): string {
  const lines = done.map(({ path, search: { best, tried, unit } }) => {
    if (best === null) return `  ${path}  none of ${tried.length} ways holds on all of it`
    const error =
      unit === 'dB' || best.error === null ? decibelText(best.error) : `${best.error.toFixed(2)}° off`
    return `  ${path}  ${best.format} at ${best.width} × ${best.height}, ${(best.memoryBytes / 1024).toFixed(0)} KiB in memory, ${error}`
  })
  return [
    `The smallest that holds, of ${done.length} ${done.length === 1 ? 'texture' : 'textures'}:`,
    ...lines,
    ...(refused.length > 0
      ? ['Not looked at:', ...refused.map(({ path, fault }) => `  ${path}: ${fault.why} ${fault.hint}`)]
      : []),
    '',
  ].join('\n')
}
