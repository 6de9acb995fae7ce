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

/** The later of two rules that say something else wins; what a class says itself stays. */
function lightmapsInClasses(raw: Record<string, unknown>): unknown {
  const found: Record<string, unknown> = {},
    rules = { ...(raw['rules'] as Record<string, unknown>) }
  let changed = false
  for (const [id, fields] of Object.entries(moved)) {
    const setting = rules[id]
    if (!isRecord(setting) || !isRecord(setting['options'])) continue
    const options = { ...setting['options'] }
    for (const [from, to] of Object.entries(fields)) {
      if (!(from in options)) continue
      found[to] = options[from]
      delete options[from]
      changed = true
    }
    rules[id] = { ...setting, options }
  }
  const { classes } = raw
  if (!changed || !isRecord(classes)) return raw
  const after = Object.entries(classes).map(([id, c]) => [id, isRecord(c) ? { ...found, ...c } : c])
  return { ...raw, rules, classes: Object.fromEntries(after) as unknown }
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
