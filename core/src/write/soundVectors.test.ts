import { Document } from '@gltf-transform/core'
import { expect, it } from 'vitest'
import { giveDirections } from './soundVectors'

/** A triangle in the plane z = 0 with these normals and tangents. */
function sheet(normals: number[], tangents: number[] | null = null) {
  const document = new Document(),
    buffer = document.createBuffer()
  const attribute = (values: number[], type: 'VEC3' | 'VEC4') =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', attribute([0, 0, 0, 1, 0, 0, 0, 1, 0], 'VEC3'))
    .setAttribute('NORMAL', attribute(normals, 'VEC3'))
  if (tangents) primitive.setAttribute('TANGENT', attribute(tangents, 'VEC4'))
  document.createMesh().addPrimitive(primitive)
  return { document, primitive }
}

it('a normal without a direction takes that of its face; all others stay to the bit', () => {
  const kept = [0.6, 0, 0.9]
  const { document, primitive } = sheet([0, 0, 0, NaN, 1, 0, ...kept])
  expect(giveDirections(document)).toBe(2)
  const values = [...primitive.getAttribute('NORMAL')!.getArray()!]
  expect(values).toEqual([0, 0, 1, 0, 0, 1, ...Float32Array.from(kept)])
  expect(giveDirections(document)).toBe(0)
})

it('a tangent without a direction or a sign gets one that stands square to the normal', () => {
  const { document, primitive } = sheet([0, 0, 1, 0, 0, 1, 0, 0, 1], [0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, -1])
  expect(giveDirections(document)).toBe(2)
  const tangent = primitive.getAttribute('TANGENT')!
  expect(tangent.getElement(0, [])).toEqual([1, 0, 0, 1])
  expect(tangent.getElement(1, [])).toEqual([1, 0, 0, 1])
  expect(tangent.getElement(2, [])).toEqual([0, 1, 0, -1])
})
