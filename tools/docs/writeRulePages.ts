import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { glossaryPage, rulePages } from './rulePages'

// node dist/docs.js <folder>: writes a page for each rule
const folder = process.argv[2] ?? 'docs/rules'
for (const [name, text] of Object.entries(rulePages())) {
  mkdirSync(dirname(join(folder, name)), { recursive: true })
  writeFileSync(join(folder, name), text)
}
writeFileSync(join(folder, '../glossary.md'), glossaryPage())
