import * as z from 'zod'
import { intakePresetSchema } from '../../intakeWay'
import { chooseIntakeSchema, deliveryFileSchema, deliverySchema, newDeliverySchema } from '../api'
import { defineRoute } from '../route'

/** Deliveries: what each route takes and gives. */
export const deliveryRoutes = {
  listDeliveries: defineRoute({
    method: 'get',
    path: '/projects/{project}/deliveries',
    group: 'Deliveries',
    does: 'The newest deliveries with their progress.',
    gives: deliverySchema.array(),
  }),
  createDelivery: defineRoute({
    method: 'post',
    path: '/projects/{project}/deliveries',
    group: 'Deliveries',
    does: 'Begins a delivery.',
    takes: newDeliverySchema,
    gives: deliverySchema,
    status: 201,
  }),
  getDelivery: defineRoute({
    method: 'get',
    path: '/deliveries/{delivery}',
    group: 'Deliveries',
    does: 'One delivery with all its files.',
    gives: deliverySchema.extend({ all: deliveryFileSchema.array() }),
  }),
  sendFiles: defineRoute({
    method: 'post',
    path: '/deliveries/{delivery}/files',
    group: 'Deliveries',
    does: 'Takes files as multipart/form-data; a field path before each file gives its path in the delivery.',
    takes: 'files',
    gives: deliveryFileSchema.array(),
    status: 201,
  }),
  closeDelivery: defineRoute({
    method: 'post',
    path: '/deliveries/{delivery}/close',
    group: 'Deliveries',
    does: 'Nothing more comes: measuring begins.',
    gives: deliverySchema,
  }),
  cancelDelivery: defineRoute({
    method: 'post',
    path: '/deliveries/{delivery}/cancel',
    group: 'Deliveries',
    does: 'Stops a delivery; files not yet measured are set aside.',
    gives: deliverySchema,
  }),
  chooseIntake: defineRoute({
    method: 'put',
    path: '/deliveries/{delivery}/intake',
    group: 'Deliveries',
    does: 'Chooses the preset that a delivery is taken in by; what it brought already is taken in anew.',
    takes: chooseIntakeSchema,
    gives: deliverySchema,
  }),
  listIntakePresets: defineRoute({
    method: 'get',
    path: '/projects/{project}/intake-presets',
    group: 'Deliveries',
    does: 'The intake presets of the rulebook, by name.',
    gives: intakePresetSchema.array(),
  }),
  saveIntakePreset: defineRoute({
    method: 'put',
    path: '/projects/{project}/intake-presets',
    group: 'Deliveries',
    does: 'Saves an intake preset under its name, as a revision of the rulebook.',
    takes: intakePresetSchema,
    gives: intakePresetSchema,
  }),
  removeIntakePreset: defineRoute({
    method: 'delete',
    path: '/projects/{project}/intake-presets/{preset}',
    group: 'Deliveries',
    does: 'Takes an intake preset out, as a revision of the rulebook; recipes keep what it said.',
    gives: z.strictObject({ ok: z.boolean() }),
  }),
}
