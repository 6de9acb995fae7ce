import { buildNode } from '../build.mjs'

/** Tests that use worker threads need the built worker entry. */
export default async function setup(): Promise<void> {
  await buildNode()
}
