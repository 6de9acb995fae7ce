import * as z from 'zod'
import { keptStepDataSchema, stepDataSchema } from '../../stepData'
import { versionQuerySchema } from '../api'
import { defineRoute } from '../route'

/** Bytes: what each route takes and gives. */
export const bytesRoutes = {
  getSourceModel: defineRoute({
    method: 'get',
    path: '/assets/{asset}/model',
    group: 'Bytes',
    does: 'One GLB of what arrived, with every picture inside.',
    query: versionQuerySchema,
    gives: 'bytes',
  }),
  getOutput: defineRoute({
    method: 'get',
    path: '/assets/{asset}/output',
    group: 'Bytes',
    does: 'What the newest recipe makes: one file, or a zip of several.',
    gives: 'bytes',
  }),
  getOutputModel: defineRoute({
    method: 'get',
    path: '/outputs/{key}/model',
    group: 'Bytes',
    does: 'One GLB of what a recipe made.',
    gives: 'bytes',
  }),
  getBlob: defineRoute({
    method: 'get',
    path: '/blobs/{sha}',
    group: 'Bytes',
    does: 'Stored bytes by their SHA-256.',
    gives: 'bytes',
  }),
  keepStepData: defineRoute({
    method: 'post',
    path: '/step-data',
    group: 'Bytes',
    does:
      'Keeps what a step works with and is too large for its options, such as what was painted; ' +
      'the step names it by its SHA-256. What no step names for a day is thrown away.',
    takes: stepDataSchema,
    gives: keptStepDataSchema,
  }),
  getPicture: defineRoute({
    method: 'get',
    path: '/blobs/{sha}/picture',
    group: 'Bytes',
    does: 'A stored texture as PNG.',
    query: z.object({
      name: z.string().describe('file name, for formats without a mark of their own').optional(),
    }),
    gives: 'bytes',
  }),
}
