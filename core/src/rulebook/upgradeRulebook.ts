import { renamedRules } from '@stern-gate/contract'

/**
 * Brings a rulebook as an older application wrote it to the form of this one: rules under their new ids, the lightmap's
 * channel and size in the classes and no longer in rules. What it cannot make sense of stays as it is, for the door to
 * refuse (see checkRulebook). Gives back the same object where there is nothing to do.
 */
export function upgradeRulebook(raw: unknown): unknown {
  if (!isRecord(raw) || !isRecord(raw['rules'])) return raw
  const rules = Object.entries(raw['rules'])
  const renamed = rules.some(([id]) => id in renamedRules)
    ? { ...raw, rules: Object.fromEntries(rules.map(([id, v]) => [renamedRules[id] ?? id, v])) }
    : raw
  return lightmapsInClasses(renamed)
}

/** Options of rules that are fields of the class now. */
const moved: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'uvs/purpose': { lightmap: 'lightmapChannel' },
  'uvs/missing': { lightmapChannel: 'lightmapChannel', lightmapSize: 'lightmapTexels' },
  'uvs/overlap': { lightmapChannel: 'lightmapChannel', lightmapSize: 'lightmapTexels' },
  'uvs/outside': { lightmapChannel: 'lightmapChannel' },
}

/**
 * What a class says itself stays; of rules that say something else the later one wins, and what is said for some paths
 * alone counts only where no rule says it for all: a class knows no paths.
 */
function lightmapsInClasses(raw: Record<string, unknown>): unknown {
  const found: Record<string, unknown> = {}
  const rules = withoutMoved(raw['rules'], found)
  const overrides = Array.isArray(raw['overrides'])
    ? raw['overrides'].map((o: unknown) =>
        isRecord(o) ? { ...o, rules: withoutMoved(o['rules'], found, true) } : o,
      )
    : raw['overrides']
  const { classes } = raw
  if (Object.keys(found).length === 0 || !isRecord(classes)) return raw
  const after = Object.entries(classes).map(([id, c]) => [id, isRecord(c) ? { ...found, ...c } : c])
  return {
    ...raw,
    rules,
    ...(overrides === undefined ? {} : { overrides }),
    classes: Object.fromEntries(after) as unknown,
  }
}

/** Settings of rules without the options that moved; these go into `found`, over what is there or (`last`) behind it. */
function withoutMoved(rules: unknown, found: Record<string, unknown>, last = false): unknown {
  if (!isRecord(rules)) return rules
  const left = { ...rules }
  for (const [id, fields] of Object.entries(moved)) {
    const setting = left[id]
    if (!isRecord(setting) || !isRecord(setting['options'])) continue
    const options = { ...setting['options'] }
    for (const [from, to] of Object.entries(fields)) {
      if (!(from in options)) continue
      if (!last || !(to in found)) found[to] = options[from]
      delete options[from]
    }
    left[id] = { ...setting, options }
  }
  return left
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
