import type { Document, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, tintChannels } from '@stern-gate/contract'
import { formatCount } from '../../numbers/formatNumber'
import { slotNames } from '../../scene/slotNames'
import { floatsOf } from '../../scene/primitiveView'
import { findPainted } from '../../surfaces/paintedParts'
import { defineRemedy } from '../defineRemedy'
import { meshesAt, ownAttributes, setFloats, trianglePrimitives } from '../meshWork'
import { readStepData } from '../stepData'

/** Writes what was painted on the model into a channel of its vertex colours. */
export const paintColours = defineRemedy({
  id: 'mesh/paint-colours',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Paint a channel of the vertex colours',
  words: ({ slot, set, channel }) => `${slot ? `${slot}: ` : ''}painted, ${channel} of colours ${set}`,
  about:
    'Writes what was painted on the model into one channel of its vertex colours. ' +
    'Viewers multiply the base colour by the first set; a further one changes nothing of what they show. ' +
    'After a re-export the painted places are found again by where they lie, whatever their vertices are. ' +
    'Nodes that share a mesh are painted together.',
  options: z.strictObject({
    data: z.string().describe('SHA-256 of what was painted'),
    slot: z
      .string()
      .nullable()
      .default(null)
      .describe('only parts with this slot; null: with any')
      .meta({ names: 'slot' }),
    set: z.int().min(0).max(3).default(1).describe('number of the set, counted from 0'),
    channel: z.enum(tintChannels).default('R').describe('channel of the set'),
  }),
  apply(work, { data, slot, set, channel }, ports) {
    const read = readStepData(data, ports, 'painted')
    if (!read.ok) return Promise.resolve(read)
    if (!work.document)
      return Promise.resolve(good({ changed: false, said: 'a texture set has no vertices' }))
    const { document } = work,
      slots = slotNames(document)
    const isMeant = (primitive: Primitive): boolean => {
      const material = primitive.getMaterial()
      return slot === null || (material !== null && slots.get(material) === slot)
    }
    let vertices = 0,
      near = 0
    const lost: string[] = []
    for (const part of read.value.parts) {
      const meshes = meshesAt(work, part.node)
      if (meshes.length === 0) lost.push(part.node)
      for (const primitive of meshes.flatMap(({ mesh }) => trianglePrimitives(mesh).filter(isMeant))) {
        const found = findPainted(part, floatsOf(primitive.getAttribute('POSITION')!))
        if (!found)
          return Promise.resolve(
            bad('remedy/data-missing', 'What was painted is damaged.', 'Paint it anew.', { node: part.node }),
          )
        vertices += found.values.length
        near += found.near
        writeChannel(document, primitive, set, tintChannels.indexOf(channel), found.values)
      }
    }
    return Promise.resolve(
      good({
        changed: vertices > 0,
        said:
          `${formatCount(near)} of ${formatCount(vertices)} vertices lie where it was painted` +
          (lost.length > 0 ? `; not found any more: ${lost.slice(0, 3).join(', ')}` : ''),
      }),
    )
  },
})

/**
 * Writes one channel of a set. Sets before it are white where they are missing: glTF counts them without a gap. New
 * sets are of 8 bits a channel, as exact as what was painted.
 */
function writeChannel(
  document: Document,
  primitive: Primitive,
  set: number,
  channel: number,
  values: Float32Array,
): void {
  ownAttributes(primitive)
  for (let n = 0; n < set; n++)
    if (!primitive.getAttribute(`COLOR_${n}`))
      setBytes(document, primitive, n, new Uint8Array(values.length * 4).fill(255))
  const there = primitive.getAttribute(`COLOR_${set}`)
  if (!there) {
    const bytes = new Uint8Array(values.length * 4).fill(set === 0 ? 255 : 0)
    for (let v = 0; v < values.length; v++) {
      bytes[v * 4 + 3] = 255
      bytes[v * 4 + channel] = Math.round(values[v]! * 255)
    }
    return setBytes(document, primitive, set, bytes)
  }
  const old = floatsOf(there),
    size = there.getElementSize()
  const colours = new Float32Array(values.length * 4).fill(1)
  for (let v = 0; v < values.length; v++) {
    for (let i = 0; i < size; i++) colours[v * 4 + i] = old[v * size + i]!
    colours[v * 4 + channel] = values[v]!
  }
  setFloats(document, primitive, `COLOR_${set}`, colours, 'VEC4')
}

function setBytes(document: Document, primitive: Primitive, set: number, bytes: Uint8Array): void {
  primitive.setAttribute(
    `COLOR_${set}`,
    document
      .createAccessor(`COLOR_${set}`)
      .setType('VEC4')
      .setNormalized(true)
      .setArray(bytes as Uint8Array<ArrayBuffer>)
      .setBuffer(primitive.getAttribute('POSITION')!.getBuffer()),
  )
}
