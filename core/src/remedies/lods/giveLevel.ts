import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { baseName, meshPart } from '../../scene/meshParts'
import { defineRemedy } from '../defineRemedy'

export const giveLevel = defineRemedy({
  id: 'lods/give-level',
  version: 1,
  station: 'lods',
  needs: 'mesh',
  title: 'Give a node to a level',
  words: ({ node, level }) => `${node.split('/').at(-1)} → LOD ${level}`,
  about:
    'Makes a node with a mesh, and what hangs on it, a level of detail by its name: it ends in _lod0, _lod1 … from ' +
    'then on. The shape stays; a level that stands beside the others is brought over them by “Align levels”.',
  options: z.strictObject({
    node: z.string().describe('path of the node').meta({ names: 'node' }),
    level: z.int().min(0).max(15).default(1).describe('number of the level, 0 for the finest'),
  }),
  apply(work, { node: path, level }) {
    if (!work.document) return Promise.resolve(good({ changed: false, said: 'a texture set has no levels' }))
    const found = partsOfDocument(work.document).all.find((n) => n.path === path)
    if (!found)
      return Promise.resolve(
        bad('remedy/not-applicable', `No node with a mesh is at ${path}.`, 'Choose a node of the asset.', {
          node: path,
        }),
      )
    const { node } = found,
      mesh = node.getMesh()!
    const now = `${baseName(node.getName() || mesh.getName())}_lod${level}`
    if (node.getName() === now)
      return Promise.resolve(good({ changed: false, said: `it is LOD ${level} already` }))
    node.setName(now)
    // A mark in the name of the mesh would speak against it; one that several nodes draw keeps its name
    if (isMarked(mesh.getName()) && mesh.listParents().filter((p) => p.propertyType === 'Node').length === 1)
      mesh.setName(now)
    return Promise.resolve(good({ changed: true, said: `${path} is ${now}, LOD ${level}` }))
  },
})

const isMarked = (name: string): boolean => {
  const part = meshPart(name)
  return part.kind === 'collision' || part.level > 0
}
