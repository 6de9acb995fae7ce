import {
  counts,
  stations,
  stationTitles,
  type AssetReport,
  type Finding,
  type Report,
} from '@stern-gate/contract'
import { placeWords } from './placeWords'

/**
 * The report in the JUnit form that build machines read: a suite for each asset, a case for each clear
 * station and each finding. A stop is a failure; cautions and notes pass with their words in the output.
 */
export function junitReport(report: Report): string {
  const suites = report.assets.map(suiteOf)
  if (report.refused.length > 0) {
    const cases = report.refused.map((f) =>
      testCase(
        'refused',
        f.where.file ?? f.code,
        `<error type="${xml(f.code)}" message="${xml(f.why)}">${xml(f.hint)}</error>`,
      ),
    )
    suites.push({
      xml: suite('refused files', cases, { tests: cases.length, failures: 0, errors: cases.length }),
      tests: cases.length,
      failures: 0,
      errors: cases.length,
    })
  }
  const sum = (key: 'tests' | 'failures' | 'errors'): number => suites.reduce((total, s) => total + s[key], 0)
  return `<?xml version="1.0" encoding="UTF-8"?>\n<testsuites name="stern-gate" tests="${sum('tests')}" failures="${sum('failures')}" errors="${sum('errors')}">\n${suites.map((s) => s.xml).join('\n')}\n</testsuites>\n`
}

interface Suite {
  xml: string
  tests: number
  failures: number
  errors: number
}

function suiteOf(asset: AssetReport): Suite {
  const clear = stations
    .filter((s) => asset.tally[s].state === 'clear')
    .map((s) => testCase(asset.name, stationTitles[s], null))
  const found = asset.findings.map((f) => testCase(asset.name, `${f.rule}: ${placeWords(f.place)}`, body(f)))
  const numbers = {
    tests: clear.length + found.length,
    failures: asset.findings.filter((f) => f.level === 'stop' && counts(f)).length,
    errors: 0,
  }
  return { xml: suite(asset.name, [...clear, ...found], numbers), ...numbers }
}

const body = (f: Finding): string =>
  f.waived && !counts(f)
    ? `<skipped message="${xml(`${f.text} Accepted: ${f.waived.reason}`)}" />`
    : f.level === 'stop'
      ? `<failure type="${xml(f.rule)}" message="${xml(f.text)}">${xml(f.remedies.map((r) => r.label).join('; ') || 'No remedy is built for this yet.')}</failure>`
      : `<system-out>${xml(`${f.level}: ${f.text}`)}</system-out>`

const suite = (name: string, cases: string[], counts: Omit<Suite, 'xml'>): string =>
  `  <testsuite name="${xml(name)}" tests="${counts.tests}" failures="${counts.failures}" errors="${counts.errors}">\n${cases.join('\n')}\n  </testsuite>`

const testCase = (classname: string, name: string, inside: string | null): string =>
  `    <testcase classname="${xml(classname)}" name="${xml(name)}"${inside === null ? ' />' : `>${inside}</testcase>`}`

/** Escapes text; characters that XML 1.0 does not know are left out. */
const xml = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)
