import type { Document, Node, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good, type Outcome } from '@stern-gate/contract'
import { linearDeterminant } from '../../geometry/matrix'
import { unwrapSurface, type UnwrappedPart } from '../../geometry/unwrapSurface'
import { formatCount } from '../../numbers/formatNumber'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { inputTextures } from '../../scene/slotInputs'
import { channelOf } from '../../scene/texturePlacement'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { gatherVertices, setFloats, setTriangles, trianglePrimitives } from '../meshWork'

const options = z.strictObject({
  node: z
    .string()
    .nullable()
    .default(null)
    .describe('path of one node; null: everything that is drawn')
    .meta({ names: 'node' }),
  channel: z.int().min(0).max(7).default(1).describe('UV channel that is laid out, counted from 0'),
  size: z.int().min(16).max(8192).default(256).describe('texels of the lightmap, for which the gap holds'),
  gap: z.int().min(0).max(64).default(2).describe('texels between islands'),
  keep: z.boolean().default(true).describe('a channel that was authored stays'),
})
type LayOutOptions = z.infer<typeof options>

export const layOutUvs = defineRemedy({
  id: 'uvs/lay-out',
  version: 2,
  isSlow: true,
  station: 'uvs',
  needs: 'mesh',
  title: 'Lay out a UV channel',
  words: ({ channel }) => `Lay out UV${channel}`,
  about:
    'Cuts the surface of a node into islands and lays them on a sheet of their own, evenly in the ' +
    'world, none over another, with a gap between them: what a lightmap needs. Vertices are doubled ' +
    'along the new seams; normals, tangents and other channels stay as they are. A channel that ' +
    'carries a texture is left alone.',
  options,
  async apply(work, o) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no UVs' })
    let nodes = 0,
      islands = 0
    for (const { node, primitives } of drawnNodes(work.document, o.node)) {
      if (primitives.length === 0 || staysAsItIs(primitives, o)) continue
      const done = await layOut(work.document, node, primitives, o)
      if (!done.ok) return done
      nodes++
      islands += done.value
    }
    if (nodes === 0) return good({ changed: false, said: `UV${o.channel} stays as it is` })
    return good({
      changed: true,
      said: `UV${o.channel} laid out: ${formatCount(islands)} islands on ${nodes === 1 ? 'one sheet' : `${nodes} sheets`}`,
    })
  },
})

/** Nodes that are drawn, each mesh once: collision takes no light. */
function drawnNodes(document: Document, path: string | null): { node: Node; primitives: Primitive[] }[] {
  const drawn = partsOfDocument(document).drawn
  const first = drawn.filter(
    (d, i) => drawn.findIndex((other) => other.node.getMesh() === d.node.getMesh()) === i,
  )
  return first
    .filter((d) => path === null || d.path === path)
    .map(({ node }) => ({
      node,
      primitives: trianglePrimitives(node.getMesh()!).filter((p) => p.getAttribute('POSITION')),
    }))
}

/** Whether the channel was authored and is to stay, or carries a texture. */
function staysAsItIs(primitives: readonly Primitive[], { channel, keep }: LayOutOptions): boolean {
  const there = primitives.every((p) => p.getAttribute(`TEXCOORD_${channel}`))
  return there && (keep || primitives.some((p) => mappedChannels(p).has(channel)))
}

/** UV channels that a texture of the primitive's slot lies on. */
export function mappedChannels(primitive: Primitive): Set<number> {
  const slot = primitive.getMaterial()
  if (!slot) return new Set()
  return new Set(inputTextures(slot).map(({ info }) => channelOf(info)))
}

async function layOut(
  document: Document,
  node: Node,
  primitives: readonly Primitive[],
  { channel, size, gap }: LayOutOptions,
): Promise<Outcome<number>> {
  const mirrored = !node.getSkin() && linearDeterminant(node.getWorldMatrix()) < 0
  const unwrapped = await unwrapSurface(
    primitives.map((p) => {
      const positions = worldPositions(node, p, floatsOf(p.getAttribute('POSITION')!))
      // Seen in a mirror the winding turns: the sheet is cut from the surface as it was modelled
      if (mirrored) for (let v = 0; v < positions.length; v += 3) positions[v] = -positions[v]!
      return { positions, indices: primitiveView(p).indices }
    }),
    { size, gap },
  )
  if (!unwrapped.ok) return unwrapped
  primitives.forEach((primitive, i) =>
    putOnSheet(document, primitive, unwrapped.value.parts[i]!, channel, mirrored),
  )
  return good(unwrapped.value.islands)
}

/** Channels below that are not there get the same layout: glTF numbers them without gaps. */
function putOnSheet(
  document: Document,
  primitive: Primitive,
  { source, uvs, indices }: UnwrappedPart,
  channel: number,
  mirrored: boolean,
): void {
  gatherVertices(primitive, source)
  // The sheet comes with v upward and glTF has it downward; what is drawn in a mirror reads right as it came
  if (!mirrored) for (let k = 1; k < uvs.length; k += 2) uvs[k] = 1 - uvs[k]!
  for (let c = 0; c <= channel; c++)
    if (c === channel || !primitive.getAttribute(`TEXCOORD_${c}`))
      setFloats(document, primitive, `TEXCOORD_${c}`, uvs.slice(), 'VEC2')
  setTriangles(document, primitive, indices)
}
