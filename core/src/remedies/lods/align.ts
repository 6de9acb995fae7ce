import type { Node } from '@gltf-transform/core'
import * as z from 'zod'
import type { Bounds } from '@stern-gate/contract'
import { bad, good } from '@stern-gate/contract'
import { identityMatrix, invertAffine } from '../../geometry/matrix'
import { joinBounds, pointBounds } from '../../geometry/pointBounds'
import { partsOfDocument, type DocumentNode } from '../../measure/partsOfDocument'
import { formatLength } from '../../numbers/formatNumber'
import { primitiveView } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { movedNodes } from '../../scene/movedNodes'

export const alignLevel = defineRemedy({
  id: 'lods/align',
  version: 1,
  station: 'lods',
  needs: 'mesh',
  title: 'Align a level',
  words: ({ level }) => `Align level ${level}`,
  about:
    'Moves all nodes of a level so that the middle of its bounds lies on that of the finest level: ' +
    'for levels that were delivered side by side. Nothing is scaled or turned. ' +
    'A level that follows bones or that a clip moves is left alone.',
  options: z.strictObject({ level: z.int().min(0).max(99).describe('number of the level that is moved') }),
  async apply(work, { level }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no levels' })
    const { levels, finest } = partsOfDocument(work.document)
    const nodes = levels.get(level) ?? []
    const own = boundsOf(nodes),
      wanted = boundsOf(finest)
    if (!own || !wanted || nodes === finest)
      return good({ changed: false, said: `there is no level ${level} to move` })
    const moved = movedNodes(work.document)
    if (nodes.some(({ node }) => node.getSkin() || moved.has(node)))
      return bad(
        'remedy/not-applicable',
        `Level ${level} follows bones, or a clip moves it.`,
        'Align it where it was made.',
        { node: nodes[0]!.path },
      )
    const by = centreOf(wanted).map((v, k) => v - centreOf(own)[k]!)
    const distance = Math.hypot(...by)
    if (distance <= 1e-6 * Math.hypot(...wanted.max.map((v, k) => v - wanted.min[k]!)))
      return good({ changed: false, said: `level ${level} lies on the finest one already` })
    const all = new Set(nodes.map((n) => n.node))
    for (const { node } of nodes) if (!hangsOn(node, all)) shift(node, by)
    return good({ changed: true, said: `level ${level} moved by ${formatLength(distance)}` })
  },
})

const boundsOf = (nodes: readonly DocumentNode[]): Bounds | null =>
  joinBounds(
    nodes.flatMap(({ node, primitives }) =>
      primitives.map((p) => pointBounds(worldPositions(node, p, primitiveView(p).positions))),
    ),
  )
const centreOf = ({ min, max }: Bounds): number[] => min.map((v, k) => (v + max[k]!) / 2)

/** Whether a node goes along with another of the level above it. */
function hangsOn(node: Node, all: ReadonlySet<Node>): boolean {
  for (let at = node.getParentNode(); at; at = at.getParentNode()) if (all.has(at)) return true
  return false
}

/** Moves a node by so much in the world. */
function shift(node: Node, by: readonly number[]): void {
  const back = invertAffine(node.getParentNode()?.getWorldMatrix() ?? identityMatrix)
  if (!back) return
  const own = node.getTranslation()
  node.setTranslation(
    [0, 1, 2].map((r) => own[r]! + back[r]! * by[0]! + back[4 + r]! * by[1]! + back[8 + r]! * by[2]!) as [
      number,
      number,
      number,
    ],
  )
}
