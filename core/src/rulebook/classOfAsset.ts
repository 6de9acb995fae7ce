import type { ClassFrom, Rulebook } from '@stern-gate/contract'
import { compileRulebook } from './compiledRulebook'
import { nameWords } from './nameWords'

/**
 * The class of an asset and what gave it: a person's choice, a folder of its path, a word of its name, else
 * the rulebook's default.
 */
export function classOfAsset(
  rulebook: Rulebook,
  asset: { choice: string | null; path: string; name: string },
): { className: string; from: ClassFrom } {
  if (asset.choice !== null && asset.choice in rulebook.classes)
    return { className: asset.choice, from: 'choice' }
  const { folders, words, order } = compileRulebook(rulebook).classes
  // The folder nearest to the file counts first
  const path = asset.path.toLowerCase()
  for (let end = path.lastIndexOf('/'), start = 0; end > 0; end = start - 1) {
    start = path.lastIndexOf('/', end - 1) + 1
    const found = folders.get(path.slice(start, end))
    if (found !== undefined) return { className: found, from: 'folder' }
  }
  // Where two words of a name speak for two classes, the one that stands first in the rulebook has it
  let first = Infinity
  for (const word of nameWords(asset.name)) first = Math.min(first, words.get(word) ?? Infinity)
  return first < Infinity
    ? { className: order[first]!, from: 'name' }
    : { className: rulebook.defaultClass, from: 'default' }
}
