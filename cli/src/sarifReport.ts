import type { AssetReport, Fault, Finding, Level, Report } from '@stern-gate/contract'
import { counts, faultCatalogue } from '@stern-gate/contract'
import { rules } from '@stern-gate/core'
import { placeWords } from './placeWords'

const SCHEMA = 'https://json.schemastore.org/sarif-2.1.0.json'
const levels: Record<Level, 'error' | 'warning' | 'note'> = {
  stop: 'error',
  caution: 'warning',
  note: 'note',
}

/** The report as SARIF 2.1.0 (OASIS, 27 March 2020): a result for each finding and each refused file. */
export function sarifReport(report: Report): string {
  const codes = [...new Set(report.refused.map((f) => f.code))].filter((c) => c in faultCatalogue)
  const driver = {
    name: 'stern-gate',
    version: report.version,
    semanticVersion: report.version,
    rules: [
      ...rules.map((r) => ({
        id: r.id,
        shortDescription: { text: `${r.meta.title}.` },
        fullDescription: { text: r.meta.why },
        defaultConfiguration: { level: levels[r.meta.level] },
        properties: { tags: [r.station] },
      })),
      ...codes.map((code) => ({
        id: code,
        shortDescription: { text: 'A file could not be read.' },
        fullDescription: { text: 'A file that cannot be read has not been checked.' },
        defaultConfiguration: { level: 'error' as const },
      })),
    ],
  }
  const results = [
    ...report.assets.flatMap((asset) => asset.findings.map((finding) => resultOf(asset, finding))),
    ...report.refused.map(refusal),
  ]
  const run = {
    tool: { driver },
    columnKind: 'utf16CodeUnits',
    results,
    properties: {
      rulebook: report.rulebook,
      target: report.target,
      verdict: report.verdict,
      totals: report.totals,
      notRead: report.notRead,
    },
  }
  return `${JSON.stringify({ $schema: SCHEMA, version: '2.1.0', runs: [run] }, null, 2)}\n`
}

function resultOf(asset: AssetReport, finding: Finding) {
  const file = fileOf(asset, finding)
  return {
    ruleId: finding.rule,
    ruleIndex: rules.findIndex((r) => r.id === finding.rule),
    level: levels[finding.level],
    message: { text: finding.text },
    locations: [
      {
        physicalLocation: { artifactLocation: { uri: encodeURI(file) } },
        logicalLocations: [
          { name: asset.name, kind: 'module' },
          ...[finding.place, ...finding.also].flatMap(logicalPlaces),
        ],
      },
    ],
    ...(finding.waived && !counts(finding)
      ? { suppressions: [{ kind: 'external', status: 'accepted', justification: finding.waived.reason }] }
      : {}),
    partialFingerprints: { 'sternGate/v1': finding.fingerprint },
    properties: {
      station: finding.station,
      place: placeWords(finding.place),
      remedies: finding.remedies.map((r) => ({ remedy: r.remedy, options: r.options, label: r.label })),
    },
  }
}

/** The file that a finding speaks of; the asset's first where it speaks of the whole. */
function fileOf(asset: AssetReport, { place }: Finding): string {
  const named = place.kind === 'file' ? place.file : place.kind === 'texture' ? place.texture : null
  return (
    asset.files.find((f) => named !== null && (f === named || f.endsWith(`/${named}`))) ??
    asset.files[0] ??
    asset.name
  )
}

function logicalPlaces(
  place: Finding['place'],
): { name: string; fullyQualifiedName?: string; kind: string }[] {
  switch (place.kind) {
    case 'node':
      return [{ name: last(place.node), fullyQualifiedName: place.node, kind: 'object' }]
    case 'triangles':
      return [
        {
          name: last(place.node),
          fullyQualifiedName: `${place.node}/part ${place.primitive + 1}`,
          kind: 'object',
        },
      ]
    case 'channel':
      return [
        {
          name: `UV${place.channel}`,
          fullyQualifiedName: `${place.node}/UV${place.channel}`,
          kind: 'member',
        },
      ]
    case 'slot':
      return [{ name: place.slot, kind: 'member' }]
    case 'texture':
      return [{ name: place.texture, kind: 'resource' }]
    case 'name':
      return [{ name: place.name, kind: place.what === 'node' ? 'object' : 'member' }]
    default:
      return []
  }
}

const last = (path: string): string => path.slice(path.lastIndexOf('/') + 1) || path

const refusal = (fault: Fault) => ({
  ruleId: fault.code,
  level: 'error' as const,
  message: { text: `${fault.why} ${fault.hint}` },
  locations: [{ physicalLocation: { artifactLocation: { uri: encodeURI(fault.where.file ?? '') } } }],
})
