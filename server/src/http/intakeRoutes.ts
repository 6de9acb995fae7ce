import { routes } from '@stern-gate/contract'
import { intakeBy } from '@stern-gate/core'
import { chooseIntake } from '../judging/intakeOfDelivery'
import {
  findIntakePreset,
  listIntakePresets,
  saveIntakePreset,
  wholePreset,
} from '../rulebooks/intakePresets'
import type { LibraryRoom } from '../rulebooks/libraryRoom'
import type { Services } from '../services/services'
import { findDelivery, withProgress } from '../store/deliveries'
import type { answering } from './answer'
import { notFound } from './faults'
import { projectOf, uuid } from './projectRoutes'

/** Adds the routes of intake presets, which are a part of the rulebook, and which one a delivery is taken in by. */
export function addIntakeRoutes(
  on: ReturnType<typeof answering>['on'],
  services: Services,
  room: LibraryRoom,
): void {
  const { db } = services.connection
  on(routes.listIntakePresets, async ({ parts }) => listIntakePresets(db, await projectOf(db, parts.project)))
  on(routes.saveIntakePreset, async ({ parts, body }) => {
    const { name, ...way } = wholePreset(body)
    await saveIntakePreset(services, room, await projectOf(db, parts.project), name, way)
    return { name, ...way }
  })
  on(routes.removeIntakePreset, async ({ parts }) => {
    const project = await projectOf(db, parts.project)
    if (!(await findIntakePreset(db, project, parts.preset))) throw notFound('preset')
    await saveIntakePreset(services, room, project, parts.preset, null)
    return { ok: true }
  })
  on(routes.chooseIntake, async ({ parts, body }) => {
    const delivery = await findDelivery(db, uuid(parts.delivery))
    if (!delivery) throw notFound('delivery')
    const { preset: name } = body
    const project = await projectOf(db, delivery.projectId)
    const preset = name === null ? null : await findIntakePreset(db, project, name)
    if (name !== null && !preset) throw notFound('preset')
    await chooseIntake(services, delivery, preset && intakeBy(preset))
    return withProgress(db, (await findDelivery(db, delivery.id))!)
  })
}
