import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { rulePages } from './rulePages'

it('the rules\' pages in docs/rules are up to date (npm run docs makes them)', () => {
  const folder = join(import.meta.dirname, '../../docs/rules')
  const there = Object.fromEntries(readdirSync(folder).map((name) => [name, readFileSync(join(folder, name), 'utf8')]))
  expect(there).toEqual(rulePages())
})
