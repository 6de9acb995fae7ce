import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { picturedStations } from '@stern-gate/contract'
import { crateFiles, ruleCases } from '@stern-gate/core/fixtures'
import { rules } from '@stern-gate/core'
import { glossaryPage, rulePages } from './rulePages'

// node dist/docs.js <folder>: writes a page for each rule
// node dist/docs.js --cases <folder>: writes the files of each rule's first broken case, for its picture
if (process.argv[2] === '--cases') await writeCases(process.argv[3]!)
else writePages(process.argv[2] ?? 'docs/rules')

function writePages(folder: string): void {
  for (const [name, text] of Object.entries(rulePages())) put(join(folder, name), text)
  writeFileSync(join(folder, '../glossary.md'), glossaryPage())
}

async function writeCases(folder: string): Promise<void> {
  for (const { id, station } of rules) {
    const own = ruleCases[id]?.broken[0]
    if (!own || !picturedStations.includes(station)) continue
    const files = await crateFiles(own.crate),
      base = join(folder, id.replace('/', '-'))
    for (const [path, bytes] of Object.entries(files)) put(join(base, 'files', path), bytes)
    const { words, options = {}, settings = {} } = own
    put(
      join(base, 'case.json'),
      JSON.stringify({ rule: id, station, words, options, settings, files: Object.keys(files) }),
    )
  }
}

function put(path: string, content: string | Uint8Array): void {
  mkdirSync(dirname(path), { recursive: true })
  writeFileSync(path, content)
}
