import { describe, expect, it } from 'vitest'
import { rulebookSchema } from '@stern-gate/contract'
import { defaultRulebook } from './defaultRulebook'
import { upgradeRulebook } from './upgradeRulebook'

/** As an application wrote it whose classes did not know a lightmap's channel. */
function older(rules: Record<string, unknown>) {
  const classes = Object.entries(defaultRulebook.classes).map(([id, c]) => {
    const { lightmapChannel: _, lightmapTexels: __, ...rest } = c
    return [id, rest]
  })
  return { ...defaultRulebook, classes: Object.fromEntries(classes) as object, rules }
}

describe('a rulebook of an older application', () => {
  it('has the channel and the size of lightmaps in its classes', () => {
    const read = rulebookSchema.parse(
      upgradeRulebook(
        older({
          'uvs/missing': { level: 'note', options: { lightmapChannel: 2, lightmapSize: 512 } },
          'uvs/overlap': { options: { share: 0.01, lightmapChannel: 2 } },
          'uvs/purpose': { options: { texture: 0, lightmap: 2 } },
        }),
      ),
    )
    for (const c of Object.values(read.classes))
      expect([c.lightmapChannel, c.lightmapTexels]).toEqual([2, 512])
    expect(read.rules).toEqual({
      'uvs/missing': { level: 'note', options: {} },
      'uvs/overlap': { options: { share: 0.01 } },
      'uvs/purpose': { options: { texture: 0 } },
    })
  })
  it('keeps what a class says itself, and has the second channel where nobody said one', () => {
    const said = older({ 'uvs/outside': { options: { lightmapChannel: 3 } } })
    const own = {
      ...said,
      classes: { ...said.classes, prop: { ...defaultRulebook.classes['prop'], lightmapChannel: 4 } },
    }
    const { classes } = rulebookSchema.parse(upgradeRulebook(own))
    expect([classes['prop']!.lightmapChannel, classes['set']?.lightmapChannel ?? 3]).toEqual([4, 3])
    const silent = rulebookSchema.parse(upgradeRulebook(older({})))
    expect(silent.classes['prop']!.lightmapChannel).toBe(1)
  })
  it('takes them out of what is said for some paths, and uses that only where no rule says it for all', () => {
    const overrides = [
      { files: 'sets/**', rules: { 'uvs/missing': { options: { lightmapChannel: 3, lightmapSize: 64 } } } },
    ]
    const raw = { ...older({ 'uvs/overlap': { options: { lightmapChannel: 2 } } }), overrides }
    const read = rulebookSchema.parse(upgradeRulebook(raw))
    expect(read.overrides[0]!.rules).toEqual({ 'uvs/missing': { options: {} } })
    const prop = read.classes['prop']!
    expect([prop.lightmapChannel, prop.lightmapTexels]).toEqual([2, 64])
  })
  it('is the same object where there is nothing to do, whatever it is', () => {
    for (const raw of [defaultRulebook, null, 3, {}, { rules: 'x' }, { rules: { 'uvs/missing': 1 } }])
      expect(upgradeRulebook(raw)).toBe(raw)
  })
})
