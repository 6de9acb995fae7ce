import * as z from 'zod'

/** Bytes of an array of numbers as base64, least byte first. */
const packed = z.base64()

/** Where a surface was painted: its triangles, so that the values find their place again after a re-export. */
export const paintedPartSchema = z.strictObject({
  node: z.string().describe('path of the node'),
  rest: z.number().min(0).max(1).describe('value of everything that is not listed'),
  points: packed.describe('x y z of each vertex, metres in the space of the mesh, 32-bit floats'),
  values: packed.describe('value of each vertex, 0 to 255'),
  triangles: packed.describe('three vertices each, 32-bit whole numbers'),
})
export type PaintedPart = z.infer<typeof paintedPartSchema>

/** Triangles that were picked, by where they lie, so that they are found again after a re-export. */
export const pickedPartSchema = z.strictObject({
  node: z.string().describe('path of the node'),
  points: packed.describe('x y z of each vertex, metres in the space of the mesh, 32-bit floats'),
  triangles: packed.describe('three vertices each, 32-bit whole numbers'),
})
export type PickedPart = z.infer<typeof pickedPartSchema>

/** What a step works with that is too large for its options; kept by content, named by its SHA-256. */
export const stepDataSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('painted'), parts: z.array(paintedPartSchema).min(1).max(1000) }),
  z.strictObject({ kind: z.literal('picked'), parts: z.array(pickedPartSchema).min(1).max(1000) }),
])
export type StepData = z.infer<typeof stepDataSchema>

export const keptStepDataSchema = z.strictObject({
  sha256: z.string().describe('what a step names it by'),
})
