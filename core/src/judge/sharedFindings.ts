import { counts, type Finding, type SharedFinding } from '@stern-gate/contract'

/** Of fewer assets nothing is said for all of them. */
const LEAST_ASSETS = 3
/** So many of those that it could hold of have it before it is said once for all. */
const LEAST_SHARE = 0.6

interface SharedKind {
  rule: string
  /** What must be the same; null: this finding is not of the kind. */
  key: (finding: Finding) => string | null
  text: (finding: Finding, count: string) => string
  /** The remedy that mends all of them, or that the rulebook may be what does not fit. */
  act: SharedFinding['act']['kind']
  remedy: string | null
}

const kinds: readonly SharedKind[] = [
  {
    rule: 'scale/expected-size',
    key: ({ message, data }) => (message === 'unit' || message === 'units' ? String(data['meant']) : null),
    text: ({ data }, count) => `${count} look like ${String(data['meant'])}.`,
    act: 'remedy',
    remedy: 'scale/rescale',
  },
  {
    rule: 'scale/axes',
    key: ({ remedies }) => remedies[0]?.label ?? null,
    text: ({ remedies }, count) => `${count} lie on their side in the same way: ${remedies[0]!.label}.`,
    act: 'remedy',
    remedy: 'scale/turn-axes',
  },
  {
    rule: 'colour/space',
    key: ({ message }) => (message === 'dataAsColour' || message === 'colourAsData' ? message : null),
    text: (_, count) =>
      `${count} have colour tags that do not go with what the textures carry: perhaps nobody here reads them.`,
    act: 'fit',
    remedy: null,
  },
  {
    rule: 'names/pattern',
    key: () => 'pattern',
    text: (_, count) =>
      `${count} have names that do not fit the pattern: perhaps the pattern is another here.`,
    act: 'fit',
    remedy: null,
  },
]

/** Rules of which something may be the same for all; findings of others are not looked at. */
export const sharedRules: readonly string[] = kinds.map((k) => k.rule)

/** One asset as this looks at it. */
export interface JudgedAsset {
  id: string
  kind: 'mesh' | 'texture-set'
  findings: readonly Finding[]
}

/**
 * What is the same for a whole delivery, said once: unit, up axis, colour tags, a custom of names. With the assets
 * that it holds of and one act that mends all of them.
 */
export function sharedFindings(assets: readonly JudgedAsset[]): SharedFinding[] {
  return kinds.flatMap((kind) => {
    const groups = new Map<string, { finding: Finding; assets: Set<string> }>()
    for (const asset of assets)
      for (const finding of asset.findings) {
        const key = finding.rule === kind.rule && counts(finding) ? kind.key(finding) : null
        if (key === null) continue
        const known = groups.get(key) ?? { finding, assets: new Set<string>() }
        known.assets.add(asset.id)
        groups.set(key, known)
      }
    const of = kind.rule.startsWith('scale/') ? assets.filter((a) => a.kind === 'mesh').length : assets.length
    return [...groups.values()]
      .filter((g) => g.assets.size >= LEAST_ASSETS && g.assets.size >= of * LEAST_SHARE)
      .map((g) => ({
        rule: kind.rule,
        message: g.finding.message,
        text: kind.text(g.finding, `${g.assets.size} of ${of} assets`),
        assets: [...g.assets],
        of,
        act: { kind: kind.act, remedy: kind.remedy },
      }))
  })
}

/** Whether a finding of an asset is one of those that are said once. */
export const isShared = (finding: Finding, asset: string, shared: readonly SharedFinding[]): boolean =>
  shared.some((s) => s.rule === finding.rule && s.message === finding.message && s.assets.includes(asset))
