import type { Router } from 'express'
import { bad, routes } from '@stern-gate/contract'
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
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { projectOf, uuid } from './projectRoutes'

const intakeOptions = findRemedy('files/intake')!.options

/** Named ways of taking in, and which of them a delivery is taken in by. */
export function intakeRoutes(services: Services): Router {
  const { db } = services.connection
  const { router, on } = answering()
  on(routes.listIntakePresets, async ({ parts }) =>
    listIntakePresets(db, (await projectOf(db, parts.project)).id),
  )
  on(routes.saveIntakePreset, async ({ parts, body }) => {
    const { id: project } = await projectOf(db, parts.project),
      preset = body
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
    return saveIntakePreset(db, project, { ...preset, options: options.data as typeof preset.options })
  })
  on(routes.removeIntakePreset, async ({ parts }) => {
    if (!(await removeIntakePreset(db, uuid(parts.preset)))) throw notFound('preset')
    return { ok: true }
  })
  on(routes.chooseIntake, async ({ parts, body }) => {
    const delivery = await findDelivery(db, uuid(parts.delivery))
    if (!delivery) throw notFound('delivery')
    const { preset: id } = body
    const preset = id === null ? null : await findIntakePreset(db, delivery.projectId, id)
    if (id !== null && !preset) throw notFound('preset')
    await chooseIntake(
      services,
      delivery,
      preset && { name: preset.name, options: preset.options, mend: preset.mend, apart: preset.apart },
    )
    return withProgress(db, (await findDelivery(db, delivery.id))!)
  })
  return router
}
