import { SOUNDED_CLASS, type GaugeUnit, type SoundingLimit } from '@stern-gate/contract'
import { longestSide } from '../geometry/pointBounds'
import { rules } from '../rules/index'
import type { Subject } from '../subject/subject'
import { trianglesOf } from '../subject/drawnPrimitives'

/** What a rule with a limit measures, on things that pass it as well. */
export interface Sounding {
  rule: string
  /** What one value belongs to. */
  of: string
  unit: GaugeUnit
  scale: 'linear' | 'log'
  /** Its limits are those of a class. */
  byClass: boolean
  values: (subject: Subject) => number[]
  limits: readonly SoundingLimit[]
}

type ClassLimit = [words: string, side: 'least' | 'most', path: string[]]

const classSounding = (
  sounding: Pick<Sounding, 'rule' | 'of' | 'unit' | 'scale' | 'values'>,
  limits: readonly ClassLimit[],
): Sounding => ({
  ...sounding,
  byClass: true,
  limits: limits.map(([words, side, path]) => ({
    words,
    side,
    initial: null,
    path: ['classes', SOUNDED_CLASS, ...path],
  })),
})

/**
 * A rule whose finding shows its value on a gauge: with its limit set to where everything is beyond it, it gives
 * the value of all things.
 */
function optionSounding(
  id: string,
  sounding: Pick<Sounding, 'of' | 'unit'> & Partial<Pick<Sounding, 'scale'>>,
  { option, side }: { option: string; side: 'least' | 'most' },
): Sounding {
  const rule = rules.find((r) => r.id === id)!
  const optionsOf = (given: Record<string, unknown>): Record<string, unknown> =>
    rule.options.parse(given) as Record<string, unknown>
  return {
    rule: id,
    scale: 'linear',
    ...sounding,
    byClass: false,
    values: (subject) =>
      rule.meta.kinds.includes(subject.kind)
        ? rule
            .judge(subject, {
              ...optionsOf({ ...subject.rulebook.rules[id]?.options }),
              // Beyond what a person may set: things at the very end count, too
              [option]: side === 'most' ? -1 : 2,
            })
            .flatMap((f) => (f.gauge ? [f.gauge.value] : []))
        : [],
    limits: [
      {
        words: side === 'most' ? 'at most' : 'at least',
        side,
        initial: Number(optionsOf({})[option]),
        path: ['rules', id, 'options', option],
      },
    ],
  }
}

const LIGHTMAP_GAP = 'uvs/lightmap-gap'

/** Texels between islands of each lightmap whose gaps are known; those that stand far apart have none. */
function gapsOfLightmaps({ class: own, parts }: Subject): number[] {
  if (!own.lightmap) return []
  const sheets = parts.finest.flatMap((node) =>
    node.sheets.filter((s) => s.channel === own.lightmapChannel && s.slot === null),
  )
  return sheets.flatMap(({ gap }) => (gap?.between == null ? [] : [gap.between * own.lightmapTexels]))
}

/** Every rule whose limit can be set by looking at what there is. */
export const soundings: readonly Sounding[] = [
  classSounding(
    {
      rule: 'scale/expected-size',
      of: 'longest side of an asset',
      unit: 'm',
      scale: 'log',
      values: ({ bounds }) => (bounds ? [longestSide(bounds)] : []),
    },
    [
      ['at least', 'least', ['longestSide', 'min']],
      ['at most', 'most', ['longestSide', 'max']],
    ],
  ),
  classSounding(
    {
      rule: 'mesh/triangle-budget',
      of: 'level 0 of an asset',
      unit: 'triangles',
      scale: 'log',
      values: ({ parts }) => (parts.finest.length > 0 ? [trianglesOf(parts.finest)] : []),
    },
    [
      ['caution above', 'most', ['triangles', 'caution']],
      ['stop above', 'most', ['triangles', 'stop']],
    ],
  ),
  classSounding(
    {
      rule: 'slots/count',
      of: 'slots of an asset',
      unit: 'count',
      scale: 'linear',
      values: ({ slotShares }) => (slotShares.size > 0 ? [slotShares.size] : []),
    },
    [['at most', 'most', ['slots']]],
  ),
  optionSounding(
    'uvs/overlap',
    { of: 'sheet of a node, covered more than once', unit: 'share' },
    { option: 'share', side: 'most' },
  ),
  optionSounding(
    'uvs/degenerate',
    { of: 'channel, triangles without an area', unit: 'share' },
    { option: 'allowed', side: 'most' },
  ),
  optionSounding(
    'mesh/draw-order',
    { of: 'primitive, times a vertex is transformed', unit: 'count' },
    { option: 'most', side: 'most' },
  ),
  optionSounding(
    'mesh/vertex-ratio',
    { of: 'node, vertices for each point', unit: 'count' },
    { option: 'most', side: 'most' },
  ),
  optionSounding(
    'slots/tiny',
    { of: 'slot, share of the surface', unit: 'share' },
    { option: 'share', side: 'least' },
  ),
  optionSounding(
    'colour/metal-between',
    { of: 'texture, texels between metal and none', unit: 'share' },
    { option: 'share', side: 'most' },
  ),
  optionSounding(
    'colour/normal-length',
    { of: 'normal map, texels of unit length', unit: 'share' },
    { option: 'share', side: 'least' },
  ),
  optionSounding(
    'lods/step',
    { of: 'level, triangles over those before', unit: 'share' },
    { option: 'ratio', side: 'most' },
  ),
  optionSounding(
    'collision/corners',
    { of: 'collision shape', unit: 'count' },
    { option: 'most', side: 'most' },
  ),
  {
    rule: LIGHTMAP_GAP,
    of: 'lightmap, texels between its islands',
    unit: 'texels',
    scale: 'linear',
    byClass: false,
    values: gapsOfLightmaps,
    limits: [
      { words: 'at least', side: 'least', initial: 2, path: ['rules', LIGHTMAP_GAP, 'options', 'between'] },
    ],
  },
]

export const findSounding = (rule: string): Sounding | null => soundings.find((s) => s.rule === rule) ?? null
