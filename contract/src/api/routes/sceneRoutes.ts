import * as z from 'zod'
import { deliverySchema } from '../api'
import { scenePlanSchema } from '../../scene'
import { defineRoute } from '../route'
import { sceneDetailSchema, sceneListSchema, takeApartSchema } from '../scenes'

/** Scenes of many objects: what each route takes and gives. */
export const sceneRoutes = {
  listScenes: defineRoute({
    method: 'get',
    path: '/projects/{project}/scenes',
    group: 'Scenes',
    does: 'Files of many objects that were taken apart, with their parts, and assets that look like such.',
    gives: sceneListSchema,
  }),
  openScene: defineRoute({
    method: 'post',
    path: '/assets/{asset}/scene',
    group: 'Scenes',
    does: 'Looks at the file of an asset as a scene of several objects; nothing is taken apart yet.',
    gives: sceneDetailSchema,
  }),
  getScene: defineRoute({
    method: 'get',
    path: '/scenes/{scene}',
    group: 'Scenes',
    does: 'A scene with the nodes of its file and how it is taken apart.',
    gives: sceneDetailSchema,
  }),
  takeApart: defineRoute({
    method: 'post',
    path: '/scenes/{scene}/apart',
    group: 'Scenes',
    does: 'Takes a scene apart by a plan, as a delivery of its own; later exports of it are taken apart the same way.',
    takes: takeApartSchema,
    gives: deliverySchema,
    status: 201,
  }),
  drawParts: defineRoute({
    method: 'post',
    path: '/scenes/{scene}/pictures',
    group: 'Scenes',
    does: 'One PNG with a picture of each part, 16 a row, 64 texels each, in the order of the parts.',
    takes: z.strictObject({ plan: scenePlanSchema }),
    gives: 'bytes',
  }),
  getSceneModel: defineRoute({
    method: 'get',
    path: '/scenes/{scene}/model',
    group: 'Scenes',
    does: 'One GLB of the whole file as it arrived, with every picture inside.',
    gives: 'bytes',
  }),
  getPlacements: defineRoute({
    method: 'get',
    path: '/scenes/{scene}/placements',
    group: 'Scenes',
    does: "Where the parts of a scene stood, as glTF with the assets' ids in extras.",
    gives: 'bytes',
  }),
}
