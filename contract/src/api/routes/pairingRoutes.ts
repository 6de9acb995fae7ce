import { bulkChangeSchema } from '../many'
import { acceptPairingSchema, pairingQuerySchema, pairingTableSchema, pairingWaitingSchema } from '../pairing'
import { defineRoute } from '../route'

/** Which texture feeds which slot: what each route takes and gives. */
export const pairingRoutes = {
  getPairing: defineRoute({
    method: 'get',
    path: '/projects/{project}/pairing',
    group: 'Pairing',
    does: 'Slots that wait for textures and textures that wait for slots, with what the pairing of them looks at.',
    query: pairingQuerySchema,
    gives: pairingTableSchema,
  }),
  getWaiting: defineRoute({
    method: 'get',
    path: '/projects/{project}/pairing/waiting',
    group: 'Pairing',
    does: 'How many meshes have slots without textures, and how many texture sets belong to none.',
    gives: pairingWaitingSchema,
  }),
  acceptPairing: defineRoute({
    method: 'post',
    path: '/projects/{project}/pairing',
    group: 'Pairing',
    does: 'Gives textures to slots: they join the mesh, whose recipe gets a step a slot; undone as one change.',
    takes: acceptPairingSchema,
    gives: bulkChangeSchema,
    status: 201,
  }),
}
