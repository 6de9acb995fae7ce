import type { ClassFrom, Rulebook } from '@stern-gate/contract'
import { nameWords } from './nameWords'

/** The class of an asset and what gave it: a person's choice, a folder of its path, a word of its name, else the rulebook's default. */
export function classOfAsset(rulebook: Rulebook, asset: { choice: string | null; path: string; name: string }): { className: string; from: ClassFrom } {
  if (asset.choice !== null && asset.choice in rulebook.classes) return { className: asset.choice, from: 'choice' }
  const folders = asset.path.toLowerCase().split('/').slice(0, -1)
  const words = new Set(nameWords(asset.name))
  const entries = Object.entries(rulebook.classes)
  // The folder nearest to the file counts first
  for (const folder of folders.reverse()) {
    const found = entries.find(([name, c]) => folder === name || c.folders.includes(folder))
    if (found) return { className: found[0], from: 'folder' }
  }
  const found = entries.find(([, c]) => c.words.some((w) => words.has(w)))
  return found ? { className: found[0], from: 'name' } : { className: rulebook.defaultClass, from: 'default' }
}
