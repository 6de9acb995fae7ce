import express, { type Express, type RequestHandler } from 'express'
import helmet from 'helmet'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { bad, cutText } from '@stern-gate/contract'
import type { Services } from '../services/services'
import { assetRoutes } from './assetRoutes'
import { bulkRoutes } from './bulkRoutes'
import { documentRoutes } from './documentRoutes'
import { dispatchRoutes } from './dispatchRoutes'
import { deliveryRoutes } from './deliveryRoutes'
import { ownAddress, readableAddress, validBody } from './door'
import { FaultReply, finalHandler } from './faults'
import { fileRoutes } from './fileRoutes'
import { healthRoutes } from './healthRoutes'
import { liveRoutes } from './liveRoutes'
import { projectRoutes } from './projectRoutes'
import { rulebookRoutes } from './rulebookRoutes'
import { encodingRoutes } from './encodingRoutes'
import { pairingRoutes } from './pairingRoutes'
import { sceneRoutes } from './sceneRoutes'
import { UPLOADS_PATH } from './resumableUploads'

/** The HTTP side; `webFolder` holds the built page. */
export function createApp(
  services: Services,
  files: { webFolder: string | null; rulePages: string; uploads: RequestHandler },
): Express {
  const { webFolder } = files
  const app = express()
  app.disable('x-powered-by')
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          connectSrc: ["'self'", 'blob:', 'data:'],
          workerSrc: ["'self'", 'blob:'],
          fontSrc: ["'self'", 'data:'],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
        },
      },
      crossOriginEmbedderPolicy: false,
      strictTransportSecurity: false,
    }),
  )
  app.use(ownAddress(services.settings), readableAddress)
  app.all([UPLOADS_PATH, `${UPLOADS_PATH}/{*id}`], files.uploads)
  const api = express.Router()
  api.use(express.json({ limit: '4mb' }), validBody)
  api.use(
    healthRoutes(services),
    projectRoutes(services),
    deliveryRoutes(services),
    assetRoutes(services),
    sceneRoutes(services),
    encodingRoutes(services),
    pairingRoutes(services),
    bulkRoutes(services),
    dispatchRoutes(services),
    rulebookRoutes(services),
    fileRoutes(services),
    liveRoutes(services),
    documentRoutes(files.rulePages),
  )
  api.use((request) => {
    throw new FaultReply(
      bad(
        'request/not-found',
        `There is nothing at ${request.method} ${cutText(request.path, 100, '…')}.`,
        'Check the address.',
      ).fault,
    )
  })
  app.use('/api', api)
  if (webFolder && existsSync(webFolder)) {
    app.use(
      express.static(webFolder, {
        index: false,
        maxAge: '1y',
        immutable: true,
        setHeaders: (response, path) => {
          if (!path.includes('/assets/')) response.setHeader('Cache-Control', 'no-cache')
        },
      }),
    )
    app.get('/{*path}', (_, response) => {
      response.set('Cache-Control', 'no-cache').sendFile(join(webFolder, 'index.html'))
    })
  }
  app.use(finalHandler(services.log))
  return app
}
