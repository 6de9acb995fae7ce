import * as z from 'zod'

/** Where a step works: one node, or everywhere. */
export const nodeOption = z
  .string()
  .nullable()
  .default(null)
  .describe('path of one node; null: everywhere')
  .meta({ names: 'node' })
