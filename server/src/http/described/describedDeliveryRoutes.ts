import * as z from 'zod'
import {
  chooseIntakeSchema,
  deliveryFileSchema,
  deliverySchema,
  intakePresetSchema,
  newDeliverySchema,
  saveIntakePresetSchema,
} from '@stern-gate/contract'
import type { ApiRoute } from './apiRoute'

/** Deliveries: what each route takes and gives. */
export const describedDeliveryRoutes: readonly ApiRoute[] = [
  {
    method: 'get',
    path: '/projects/{project}/deliveries',
    group: 'Deliveries',
    does: 'The newest deliveries with their progress.',
    gives: deliverySchema.array(),
  },
  {
    method: 'post',
    path: '/projects/{project}/deliveries',
    group: 'Deliveries',
    does: 'Begins a delivery.',
    takes: newDeliverySchema,
    gives: deliverySchema,
    status: 201,
  },
  {
    method: 'get',
    path: '/deliveries/{delivery}',
    group: 'Deliveries',
    does: 'One delivery with all its files.',
    gives: deliverySchema.extend({ all: deliveryFileSchema.array() }),
  },
  {
    method: 'post',
    path: '/deliveries/{delivery}/files',
    group: 'Deliveries',
    does: 'Takes files as multipart/form-data; a field path before each file gives its path in the delivery.',
    takes: 'files',
    gives: deliveryFileSchema.array(),
    status: 201,
  },
  {
    method: 'post',
    path: '/deliveries/{delivery}/close',
    group: 'Deliveries',
    does: 'Nothing more comes: measuring begins.',
    gives: deliverySchema,
  },
  {
    method: 'post',
    path: '/deliveries/{delivery}/cancel',
    group: 'Deliveries',
    does: 'Stops a delivery; files not yet measured are set aside.',
    gives: deliverySchema,
  },
  {
    method: 'put',
    path: '/deliveries/{delivery}/intake',
    group: 'Deliveries',
    does: 'Chooses the preset that a delivery is taken in by; what it brought already is taken in anew.',
    takes: chooseIntakeSchema,
    gives: deliverySchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/intake-presets',
    group: 'Deliveries',
    does: 'The intake presets of a project.',
    gives: intakePresetSchema.array(),
  },
  {
    method: 'put',
    path: '/projects/{project}/intake-presets',
    group: 'Deliveries',
    does: 'Saves an intake preset under its name.',
    takes: saveIntakePresetSchema,
    gives: intakePresetSchema,
  },
  {
    method: 'delete',
    path: '/intake-presets/{preset}',
    group: 'Deliveries',
    does: 'Takes an intake preset out; recipes keep what it said.',
    gives: z.strictObject({ ok: z.boolean() }),
  },
]
