import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { glossary, picturedStations } from '@stern-gate/contract'
import { rules } from '@stern-gate/core'
import { glossaryPage, rulePages } from './rulePages'

it("the rules' pages in docs/rules are up to date (npm run docs makes them)", () => {
  const folder = join(import.meta.dirname, '../../docs/rules')
  const there = Object.fromEntries(
    readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')]),
  )
  expect(there).toEqual(rulePages())
})

it('pictures of faults are of rules that there are, and few rules of a stage have none', () => {
  const folder = join(import.meta.dirname, '../../web/public/rules')
  const there = new Set(readdirSync(folder).map((name) => name.replace('.webp', '')))
  const ids = new Set(rules.map((r) => r.id.replace('/', '-')))
  expect([...there].filter((name) => !ids.has(name))).toEqual([])
  const without = rules.filter(
    (r) => picturedStations.includes(r.station) && !there.has(r.id.replace('/', '-')),
  )
  // These two need another version, and a target of their own
  expect(without.map((r) => r.id)).toEqual(['scale/moved-since-last-version', 'slots/carry-over'])
})

it('and so is the glossary, whose terms are those that the page shows', () => {
  const root = join(import.meta.dirname, '../..')
  expect(readFileSync(join(root, 'docs/glossary.md'), 'utf8')).toBe(glossaryPage())
  const bench = join(root, 'web/src/bench')
  const rows = readdirSync(bench)
    .filter((name) => name.endsWith('.ts'))
    .map((name) => readFileSync(join(bench, name), 'utf8'))
    .join('\n')
  const shown = new Set([...rows.matchAll(/\brow\(\s*'([^']+)'/g)].map((m) => m[1]!))
  expect(Object.keys(glossary).filter((term) => !shown.has(term))).toEqual([])
  expect([...shown].filter((term) => !(term in glossary) && !plain.has(term))).toEqual([])
})

/** Rows that say what they are. */
const plain = new Set([
  ...['Format', 'Size', 'Textures inside', 'Textures beside', 'Cameras', 'Lights', 'Skins', 'Checked'],
  ...['Match their pattern', 'With a suggestion', 'Along X', 'Along Y, up', 'Along Z', 'Unit in the file'],
  ...['Up in the file', 'With a mesh', 'Triangles', 'Vertices', 'Surface', 'Share of the surface', 'Alpha'],
  ...['Metallic · roughness', 'Channels', 'On disk', 'Values', 'Above 1', 'Below 0', 'U', 'V', 'Found'],
])
