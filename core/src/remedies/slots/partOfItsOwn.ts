import type { Document, Material, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { formatCount } from '../../numbers/formatNumber'
import { primitiveView } from '../../scene/primitiveView'
import { slotNames } from '../../scene/slotNames'
import { findPicked } from '../../surfaces/pickedParts'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { meshesAt, ownAttributes, setTriangles, trianglePrimitives } from '../meshWork'
import { readStepData } from '../stepData'
import type { Work } from '../work'

const optionsSchema = z.strictObject({
  name: z
    .string()
    .min(1)
    .max(200)
    .describe('name of the slot that the part gets: a new one, or one that is there'),
  node: z
    .string()
    .nullable()
    .default(null)
    .describe('path of a node that becomes the part; null: what was picked')
    .meta({ names: 'node' }),
  slot: z
    .string()
    .nullable()
    .default(null)
    .describe('only what has this slot now; null: any')
    .meta({ names: 'slot' }),
  data: z
    .string()
    .nullable()
    .default(null)
    .describe('SHA-256 of the triangles that were picked; null: the whole node'),
})
type PartOptions = z.infer<typeof optionsSchema>

export const partOfItsOwn = defineRemedy({
  id: 'slots/part',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Give a part a slot of its own',
  words: ({ name }) => `Part: ${name}`,
  about:
    'Gives a node, or triangles that were picked on the model, a slot of their own, which begins as a copy of the one ' +
    'they have; where the mesh has a slot of that name they get that one. After a re-export picked triangles are found again by where they lie, whatever their numbers are. ' +
    'Nodes that share a mesh change together.',
  options: optionsSchema,
  apply(work, options, ports) {
    return Promise.resolve(makePart(work, options, ports))
  },
})

function makePart(
  work: Work,
  options: PartOptions,
  ports: RemedyPorts,
): Outcome<{ changed: boolean; said: string }> {
  const { document } = work
  if (!document) return good({ changed: false, said: 'a texture set has no slots' })
  if (options.node === null && options.data === null)
    return bad(
      'remedy/not-applicable',
      'Neither a node nor triangles are named.',
      'Choose a node, or pick on the model.',
    )
  const slots = slotNames(document)
  const parts = partsOf(options, ports)
  if (!parts.ok) return parts
  const there = [...slots].find(([, name]) => name === options.name)?.[0],
    made = new Map<Material | null, Material>()
  let triangles = 0
  for (const { node, flagsOf } of parts.value)
    for (const { mesh } of meshesAt(work, node))
      for (const primitive of trianglePrimitives(mesh)) {
        const slot = primitive.getMaterial()
        if (options.slot !== null && (slot === null || slots.get(slot) !== options.slot)) continue
        if (slot !== null && slot === there) continue
        const flags = flagsOf(primitive)
        if (!flags)
          return bad('remedy/data-missing', 'What was picked is damaged.', 'Pick it anew.', { node })
        if (!flags.includes(1)) continue
        const own = there ?? made.get(slot) ?? slotLike(document, slot, options.name, made.size)
        made.set(slot, own)
        const moved = splitOff(document, primitive, flags, own)
        triangles += moved.triangles
        if (moved.part) mesh.addPrimitive(moved.part)
      }
  return good({
    changed: triangles > 0,
    said:
      triangles > 0 ? `${formatCount(triangles)} triangles have ${options.name}` : 'no triangle was found',
  })
}

interface WantedPart {
  node: string
  /** 1 for each triangle that belongs to it; null where what was picked is damaged. */
  flagsOf: (primitive: Primitive) => Uint8Array | null
}

function partsOf({ node, data }: PartOptions, ports: RemedyPorts): Outcome<WantedPart[]> {
  if (data === null) {
    const all = (primitive: Primitive): Uint8Array =>
      new Uint8Array(Math.floor(primitiveView(primitive).indices.length / 3)).fill(1)
    return good([{ node: node!, flagsOf: all }])
  }
  const read = readStepData(data, ports, 'picked')
  if (!read.ok) return read
  return good(
    read.value.parts.map((part) => ({
      node: part.node,
      flagsOf: (primitive) => {
        const { positions, indices } = primitiveView(primitive)
        return findPicked(part, positions, indices)
      },
    })),
  )
}

/** A slot like another, or a plain one; parts of several slots get a number each. */
function slotLike(document: Document, slot: Material | null, name: string, count: number): Material {
  const own = slot ? slot.clone() : document.createMaterial()
  return own.setName(count === 0 ? name : `${name}_${count + 1}`)
}

/** Takes the flagged triangles out of a primitive into one with another slot; where all are, it gets the slot itself. */
function splitOff(
  document: Document,
  primitive: Primitive,
  flags: Uint8Array,
  slot: Material,
): { triangles: number; part: Primitive | null } {
  const { indices } = primitiveView(primitive)
  const mine: number[] = [],
    rest: number[] = []
  for (let t = 0; t < flags.length; t++)
    (flags[t] ? mine : rest).push(indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!)
  if (rest.length === 0) {
    primitive.setMaterial(slot)
    return { triangles: mine.length / 3, part: null }
  }
  const part = primitive.clone().setMaterial(slot)
  ownAttributes(part)
  ownAttributes(primitive)
  setTriangles(document, part, Uint32Array.from(mine))
  setTriangles(document, primitive, Uint32Array.from(rest))
  return { triangles: mine.length / 3, part }
}
