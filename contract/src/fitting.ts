import * as z from 'zod'

export const fitTopics = ['names', 'roles', 'classes', 'conventions'] as const

/** A change of the rulebook that the library itself suggests. */
export const proposalSchema = z.strictObject({
  id: z.string().describe('what it is about; the same for the same things'),
  topic: z.enum(fitTopics),
  title: z.string(),
  now: z.string().describe('what the rulebook says, in words'),
  then: z.string().describe('what it would say; empty where nothing fits enough'),
  change: z
    .array(z.strictObject({ path: z.array(z.string()), value: z.unknown() }))
    .describe('values that it puts into the rulebook; empty where nothing is proposed'),
  fits: z.int().min(0),
  of: z.int().min(0),
  misfits: z.array(z.string()).max(200).describe('things that it does not fit, the first of them'),
  note: z.string().nullable().describe('what tells two patterns apart, or why nothing is proposed'),
  groups: z
    .array(z.strictObject({ words: z.string(), count: z.int(), examples: z.array(z.string()) }))
    .describe('what there is, the commonest first'),
})
export type Proposal = z.infer<typeof proposalSchema>

/** What fitting found: proposals, and of how many assets. */
export const fitSchema = z.strictObject({ assets: z.int().min(0), proposals: z.array(proposalSchema) })
export type Fit = z.infer<typeof fitSchema>
