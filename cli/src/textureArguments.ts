import {
  bad,
  encodedFormats,
  type EncodedFormat,
  type Rulebook,
  type TextureRole,
} from '@stern-gate/contract'
import { formatAt, isTextureKind, kindByExtension } from '@stern-gate/core'
import { findFiles, type FoundFile } from '@stern-gate/engine'
import { findRulebook } from './readRulebook'
import { CannotRun, type Surroundings } from './surroundings'

/** Textures among files and folders, and the rulebook that they are taken by. */
export async function findTextures(
  { cwd }: Pick<Surroundings, 'cwd'>,
  paths: string[],
  rulebookFile: string | undefined,
): Promise<{ rulebook: Rulebook; textures: FoundFile[] }> {
  const { rulebook } = await findRulebook(cwd, paths, rulebookFile)
  const { found } = await findFiles(paths, cwd)
  return { rulebook, textures: found.filter((f) => isTextureKind(kindByExtension(f.path))) }
}

/** Decibels for people; null: nothing differs. */
export const decibelText = (dB: number | null): string => (dB === null ? 'exact' : `${dB.toFixed(1)} dB`)

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
