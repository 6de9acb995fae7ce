import { Router } from 'express'
import { bad, chooseIntakeSchema, saveIntakePresetSchema } from '@stern-gate/contract'
import { findRemedy } from '@stern-gate/core'
import { chooseIntake } from '../judging/intakeOfDelivery'
import type { Services } from '../services/services'
import { findDelivery, withProgress } from '../store/deliveries'
import {
  findIntakePreset,
  listIntakePresets,
  removeIntakePreset,
  saveIntakePreset,
} from '../store/intakePresets'
import { FaultReply, notFound, parse, route } from './faults'
import { projectOf, uuid } from './projectRoutes'

const intakeOptions = findRemedy('files/intake')!.options

/** Named ways of taking in, and which of them a delivery is taken in by. */
export function intakeRoutes(services: Services): Router {
  const { db } = services.connection
  return Router()
    .get(
      '/projects/:project/intake-presets',
      route(async (request, response) => {
        response.json(await listIntakePresets(db, (await projectOf(db, request.params['project'])).id))
      }),
    )
    .put(
      '/projects/:project/intake-presets',
      route(async (request, response) => {
        const { id: project } = await projectOf(db, request.params['project']),
          preset = parse(saveIntakePresetSchema, request.body)
        const options = intakeOptions.safeParse(preset.options)
        if (!options.success)
          throw new FaultReply(
            bad(
              'remedy/bad-options',
              `${options.error.issues[0]!.path.join('.')}: ${options.error.issues[0]!.message}.`,
              'See the options of files/intake.',
              { part: options.error.issues[0]!.path.join('.') },
            ).fault,
          )
        response.json(
          await saveIntakePreset(db, project, { ...preset, options: options.data as typeof preset.options }),
        )
      }),
    )
    .delete(
      '/intake-presets/:preset',
      route(async (request, response) => {
        if (!(await removeIntakePreset(db, uuid(request.params['preset'])))) throw notFound('preset')
        response.json({ ok: true })
      }),
    )
    .put(
      '/deliveries/:delivery/intake',
      route(async (request, response) => {
        const delivery = await findDelivery(db, uuid(request.params['delivery']))
        if (!delivery) throw notFound('delivery')
        const { preset: id } = parse(chooseIntakeSchema, request.body)
        const preset = id === null ? null : await findIntakePreset(db, delivery.projectId, id)
        if (id !== null && !preset) throw notFound('preset')
        await chooseIntake(services, delivery, preset && { name: preset.name, options: preset.options })
        response.json(await withProgress(db, (await findDelivery(db, delivery.id))!))
      }),
    )
}
