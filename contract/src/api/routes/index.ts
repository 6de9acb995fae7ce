import type { ApiRoute } from '../route'
import { assetRoutes } from './assetRoutes'
import { bytesRoutes } from './bytesRoutes'
import { deliveryRoutes } from './deliveryRoutes'
import { dispatchRoutes } from './dispatchRoutes'
import { manyRoutes } from './manyRoutes'
import { encodingRoutes } from './encodingRoutes'
import { pairingRoutes } from './pairingRoutes'
import { projectRoutes } from './projectRoutes'
import { rulebookRoutes } from './rulebookRoutes'
import { sceneRoutes } from './sceneRoutes'
import { memoryRoutes } from './memoryRoutes'
import { surfaceRoutes } from './surfaceRoutes'
import { serverRoutes } from './serverRoutes'

/** Every route of the API by name, in the order of its description. */
export const routes = {
  ...serverRoutes,
  ...projectRoutes,
  ...deliveryRoutes,
  ...assetRoutes,
  ...sceneRoutes,
  ...encodingRoutes,
  ...pairingRoutes,
  ...bytesRoutes,
  ...manyRoutes,
  ...rulebookRoutes,
  ...surfaceRoutes,
  ...memoryRoutes,
  ...dispatchRoutes,
}

/** The same as a list. */
export const allRoutes: readonly ApiRoute[] = Object.values<ApiRoute>(routes)
