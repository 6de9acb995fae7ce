import * as z from 'zod'

/** Payloads of the jobs, by name. */
export const jobPayloads = {
  measure_file: z.strictObject({ file: z.uuid() }),
  assemble_delivery: z.strictObject({ delivery: z.uuid() }),
  refresh_asset: z.strictObject({ asset: z.uuid() }),
  judge_asset: z.strictObject({ asset: z.uuid() }),
  judge_many: z.strictObject({ project: z.uuid(), assets: z.array(z.uuid()) }),
  validate_asset: z.strictObject({ asset: z.uuid() }),
  bulk_change: z.strictObject({ change: z.uuid() }),
  settle_absent: z.strictObject({ delivery: z.uuid() }),
  pack_dispatch: z.strictObject({ dispatch: z.uuid() }),
} as const
