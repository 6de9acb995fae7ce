import type { Document, Node } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { multiplyTurns, type Quaternion } from '../../geometry/matrix'
import { finestBounds } from '../../measure/partsOfDocument'
import { shownNodes } from '../../scene/nodePaths'
import { bakeTransform } from './bakeTransform'
import { defineRemedy } from '../defineRemedy'
import { moveDocument } from './movePivot'
import { movedNodes } from '../../scene/movedNodes'

const HALF = Math.SQRT1_2

/** Turns that bring an axis up; about X for Z, about Z for X. */
const upTurns: Record<string, Quaternion> = {
  '+Z': [-HALF, 0, 0, HALF],
  '-Z': [HALF, 0, 0, HALF],
  '+X': [0, 0, HALF, HALF],
  '-X': [0, 0, -HALF, HALF],
  '-Y': [1, 0, 0, 0],
  '+Y': [0, 0, 0, 1],
}
/** Turns about Y that bring an axis to the front, which is +Z. */
const frontTurns: Record<string, Quaternion> = {
  '+Z': [0, 0, 0, 1],
  '-Z': [0, 1, 0, 0],
  '+X': [0, -HALF, 0, HALF],
  '-X': [0, HALF, 0, HALF],
}

export const turnAxes = defineRemedy({
  id: 'scale/turn-axes',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Turn the axes',
  words: ({ up }) => `Turn ${up} up`,
  about:
    'Turns the whole asset about the origin so that the named axis points up and another to the front, ' +
    'and bakes the turn into points where nothing stands against it. Levels and collision go along.',
  options: z.strictObject({
    up: z
      .enum(['+Y', '+Z', '-Z', '+X', '-X', '-Y'])
      .default('+Y')
      .describe('axis of the source that becomes up'),
    front: z
      .enum(['+Z', '-Z', '+X', '-X'])
      .default('+Z')
      .describe('axis that becomes the front, +Z, once it stands'),
    base: z.boolean().default(true).describe('keep the base of level 0 where it was'),
  }),
  async apply(work, { up, front, base }, ports) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no axes' })
    if (up === '+Y' && front === '+Z') return good({ changed: false, said: 'it stands so already' })
    const before = base ? finestBounds(work.document) : null
    turnScene(work.document, multiplyTurns(frontTurns[front]!, upTurns[up]!))
    await bakeTransform.apply(work, { node: null, which: 'scaled or turned' }, ports)
    const after = before ? finestBounds(work.document) : null
    if (before && after)
      moveDocument(
        work.document,
        [0, 1, 2].map(
          (i) => standAt(before.min[i]!, before.max[i]!, i) - standAt(after.min[i]!, after.max[i]!, i),
        ) as [number, number, number],
      )
    return good({
      changed: true,
      said: [
        ...(up === '+Y' ? [] : [`${up} points up now`]),
        ...(front === '+Z' ? [] : [`${front} is the front`]),
      ].join(', '),
    })
  },
})

/** The base centre: the low end of Y, the middle of the others. */
const standAt = (min: number, max: number, axis: number): number => (axis === 1 ? min : (min + max) / 2)

/**
 * Edits in place: turns every root of the shown scene about the origin. Roots that a clip moves get a holder
 * that is turned instead.
 */
function turnScene(document: Document, turn: Quaternion): void {
  const moved = movedNodes(document)
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0] ?? null
  for (const node of shownNodes(document)) {
    const target = moved.has(node) && scene ? hold(document, node, (holder) => scene.addChild(holder)) : node
    target
      .setTranslation(turned(turn, target.getTranslation()))
      .setRotation(multiplyTurns(turn, target.getRotation()))
  }
}

function hold(document: Document, node: Node, add: (holder: Node) => unknown): Node {
  const holder = document.createNode(`${node.getName()}_turn`)
  add(holder)
  return holder.addChild(node)
}

function turned(q: Quaternion, v: readonly number[]): [number, number, number] {
  const [x, y, z] = multiplyTurns(multiplyTurns(q, [v[0]!, v[1]!, v[2]!, 0] as never), [
    -q[0],
    -q[1],
    -q[2],
    q[3],
  ] as never)
  return [x, y, z]
}
