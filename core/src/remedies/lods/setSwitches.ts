import type { Node } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { partsOfDocument, type DocumentNode } from '../../measure/partsOfDocument'
import { formatShare } from '../../numbers/formatNumber'
import { dropChains, setChain } from '../../read/lodExtension'
import { baseName } from '../../scene/meshParts'
import { defineRemedy } from '../defineRemedy'

export const setSwitches = defineRemedy({
  id: 'lods/set-switches',
  version: 1,
  station: 'lods',
  needs: 'mesh',
  title: 'Set where levels are switched',
  words: ({ coverages }) =>
    coverages.length === 0
      ? 'No switches'
      : `Switch at ${coverages
          .filter((v) => v > 0)
          .map(formatShare)
          .join(', ')}`,
  about:
    'Writes which level a node has and at which coverage of the screen each is drawn at least (MSFT_lod with ' +
    'MSFT_screencoverage): a number for each level, from the finest on, the last for the end of all; 0: never. ' +
    'Nodes and meshes stay as they are.',
  options: z.strictObject({
    coverages: z
      .array(z.number().min(0))
      .max(32)
      .default([])
      .describe(
        'least share of the screen’s height at which each level is drawn; none: nothing is said any more',
      ),
  }),
  apply(work, { coverages }) {
    if (!work.document) return Promise.resolve(good({ changed: false, said: 'a texture set has no levels' }))
    const { levels } = partsOfDocument(work.document)
    if (coverages.length === 0) {
      const had = dropChains(work.document)
      return Promise.resolve(
        good({ changed: had, said: had ? 'switches are taken out' : 'it says no switches' }),
      )
    }
    if (coverages.length !== levels.size)
      return Promise.resolve(
        bad(
          'remedy/not-applicable',
          `There are ${levels.size} levels and ${coverages.length} coverages.`,
          'Give a number for each level; the last is for the end of all.',
        ),
      )
    if (coverages.some((v, i) => i > 0 && v > coverages[i - 1]!))
      return Promise.resolve(
        bad(
          'remedy/not-applicable',
          'A coarser level would be drawn before a finer one.',
          'Coverages fall from level to level.',
        ),
      )
    const [finest = [], ...coarser] = [...levels.values()]
    for (const [at, own] of finest.entries())
      setChain(work.document, own.node, matching(finest, coarser, at), coverages)
    return Promise.resolve(good({ changed: true, said: `${coverages.length} coverages are set` }))
  },
})

/** The nodes of the coarser levels that stand for one of the finest: of its name, else at its place in the list. */
const matching = (
  finest: readonly DocumentNode[],
  coarser: readonly (readonly DocumentNode[])[],
  at: number,
): Node[] =>
  coarser.flatMap((level) => {
    const named = level.find((n) => baseName(n.name) === baseName(finest[at]!.name))
    const found = named ?? (level.length === finest.length ? level[at] : at === 0 ? level[0] : undefined)
    return found ? [found.node] : []
  })
