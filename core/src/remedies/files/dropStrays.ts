import type { Node } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { nodePaths } from '../../scene/nodePaths'
import { isEmpty, strays } from '../../scene/strays'
import { defineRemedy } from '../defineRemedy'

export const dropStrays = defineRemedy({
  id: 'files/drop-strays',
  version: 2,
  station: 'files',
  needs: 'mesh',
  title: 'Drop strays',
  words: () => 'Drop strays',
  about:
    'Takes lights and empty nodes out. Nodes that hold a mesh, are joints or are moved by a clip ' +
    'stay; they only lose their light. Cameras stay: they are views of the asset.',
  options: z.strictObject({ empties: z.boolean().default(true).describe('empty nodes go too') }),
  async apply(work, { empties }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no nodes' })
    const found = strays(work.document).filter((s) => empties || s.kind !== 'empty')
    const byPath = new Map([...nodePaths(work.document)].map(([node, path]) => [path, node]))
    for (const { kind, node: path } of found) strip(byPath.get(path)!, kind)
    // A holder of nothing but lights is now empty itself
    if (found.length > 0 && empties)
      for (const { node: path } of strays(work.document))
        dropTree([...nodePaths(work.document)].find(([, p]) => p === path)?.[0] ?? null)
    return good({
      changed: found.length > 0,
      said:
        found.length > 0
          ? `${found.length} ${found.length === 1 ? 'stray' : 'strays'} dropped`
          : 'no strays are there',
    })
  },
})

function strip(node: Node, kind: 'light' | 'empty'): void {
  if (kind === 'light') node.setExtension('KHR_lights_punctual', null)
  if (isEmpty(node)) dropTree(node)
}

function dropTree(node: Node | null): void {
  if (!node || node.isDisposed()) return
  for (const child of node.listChildren()) dropTree(child)
  node.dispose()
}
