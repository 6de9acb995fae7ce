import { stat, readdir } from 'node:fs/promises'
import { basename, dirname, join, relative, resolve, sep } from 'node:path'
import { isSystemFile } from '@stern-gate/core'

export interface FoundFile {
  path: string
  file: string
  sizeBytes: number
}

/**
 * Lists files and what is in folders, with paths relative to the folder that holds them all (the working
 * folder where that covers them). Links and dot files are left out.
 */
export async function findFiles(
  given: readonly string[],
  cwd: string,
): Promise<{ found: FoundFile[]; missing: string[] }> {
  const found: FoundFile[] = [],
    missing: string[] = [],
    known = new Set<string>()
  for (const name of given) {
    const absolute = resolve(cwd, name)
    const info = await stat(absolute).catch(() => null)
    if (!info) {
      missing.push(name)
      continue
    }
    const inside = !relative(cwd, absolute).startsWith('..') && relative(cwd, absolute) !== ''
    const root = inside ? cwd : info.isDirectory() ? absolute : dirname(absolute)
    const add = (file: string, sizeBytes: number) =>
      void (
        known.has(file) ||
        (known.add(file),
        found.push({ path: relative(root, file).split(sep).join('/') || basename(file), file, sizeBytes }))
      )
    if (info.isFile()) add(absolute, info.size)
    else await walk(absolute, add)
  }
  return { found, missing }
}

async function walk(folder: string, add: (file: string, sizeBytes: number) => void): Promise<void> {
  const entries = await readdir(folder, { withFileTypes: true })
  for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (isSystemFile(entry.name) || entry.name === 'node_modules') continue
    const path = join(folder, entry.name)
    if (entry.isDirectory()) await walk(path, add)
    else if (entry.isFile()) add(path, (await stat(path)).size)
  }
}
