import { buildNode, buildWeb } from '../build.mjs'

/** The browser is shown the application as it is shipped. */
export default async function setup(): Promise<void> {
  await buildNode()
  await buildWeb()
}
