import * as z from 'zod'
import { versionQuerySchema } from '@stern-gate/contract'
import type { ApiRoute } from './apiRoute'

/** Bytes: what each route takes and gives. */
export const describedBytesRoutes: readonly ApiRoute[] = [
  {
    method: 'get',
    path: '/assets/{asset}/model',
    group: 'Bytes',
    does: 'One GLB of what arrived, with every picture inside.',
    query: versionQuerySchema,
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/assets/{asset}/output',
    group: 'Bytes',
    does: 'What the newest recipe makes: one file, or a zip of several.',
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/outputs/{key}/model',
    group: 'Bytes',
    does: 'One GLB of what a recipe made.',
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/blobs/{sha}',
    group: 'Bytes',
    does: 'Stored bytes by their SHA-256.',
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/blobs/{sha}/picture',
    group: 'Bytes',
    does: 'A stored texture as PNG.',
    query: z.object({
      name: z.string().describe('file name, for formats without a mark of their own').optional(),
    }),
    gives: 'bytes',
  },
]
