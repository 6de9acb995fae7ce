import { expect, it } from 'vitest'
import type { Finding, Report } from '@stern-gate/contract'
import { textReport } from './textReport'

const finding = (rule: string, node: string): Finding => ({
  rule,
  station: 'scale',
  level: 'caution',
  message: 'scaled',
  text: `${node} is scaled.`,
  data: {},
  place: { kind: 'node', node },
  also: [],
  gauge: null,
  remedies: [],
  value: null,
  alike: [],
  waived: null,
  fingerprint: node,
})

function report(findings: Finding[]): Report {
  return {
    format: 'stern-gate-report/1',
    version: '0',
    rulebook: 'own',
    target: 'desk',
    verdict: 'clear',
    shared: [],
    refused: [],
    setAside: [],
    notRead: [],
    totals: { assets: 1, held: 0, stops: 0, cautions: findings.length, notes: 0, refused: 0, waived: 0 },
    assets: [
      {
        name: 'quay',
        kind: 'mesh',
        class: 'prop',
        classFrom: 'default',
        files: ['quay.glb'],
        verdict: 'clear',
        tally: {} as Report['assets'][number]['tally'],
        findings,
        carryOver: [],
      },
    ],
  }
}

it('writes out eight findings of a rule, and says how many more there are', () => {
  const posts = Array.from({ length: 1508 }, (_, i) => finding('scale/unbaked-transform', `post ${i}`))
  const lines = textReport(report([...posts, finding('scale/mirrored', 'rail')])).split('\n')
  expect(lines.filter((l) => l.includes('is scaled.'))).toHaveLength(9)
  expect(lines).toContain(
    '    caution  scale/unbaked-transform  … and 1\u202f500 more like these; --format json has them all.',
  )
  expect(lines.at(-2)).toBe(
    '1 asset, 0 held, 0 files refused: 0 stops, 1\u202f509 cautions, 0 notes. Target desk.',
  )
})

it('leaves nothing out where there are eight', () => {
  const text = textReport(report(Array.from({ length: 8 }, (_, i) => finding('scale/mirrored', `post ${i}`))))
  expect([text.includes('post 7'), text.includes('more like these')]).toEqual([true, false])
})
