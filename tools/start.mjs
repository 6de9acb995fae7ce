// npm start: serves an installation without demo data. Settings come from the environment; see the README.
import { ensurePackages } from './packages.mjs'

ensurePackages()
const { runServer } = await import('./runServer.mjs')
await runServer('start')
