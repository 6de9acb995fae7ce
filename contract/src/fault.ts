import * as z from 'zod'
import { faultCodes, type FaultCode } from './faultCatalogue'
import { cutText, validText } from './validText'

/** Where a fault happened; each outer layer adds what it knows. */
export const whereSchema = z.strictObject({
  file: z.string().optional().describe('path inside the delivery, or as given on the command line'),
  reference: z.string().optional().describe('path that a file asked for'),
  node: z.string().optional(),
  slot: z.string().optional(),
  part: z.string().optional().describe('element of the format: accessor 3, chunk IDAT, field name'),
  offset: z.int().min(0).optional().describe('byte offset in the file'),
  step: z.int().min(0).optional().describe('position in the recipe, from 0'),
  measure: z.string().optional(),
})
export type Where = z.infer<typeof whereSchema>

/** Expected trouble as a value: why names the problem only, hint the next step only. */
export const faultSchema = z.strictObject({
  code: z.enum(faultCodes),
  why: z.string(),
  hint: z.string(),
  where: whereSchema,
})
export type Fault = z.infer<typeof faultSchema>

/** What a function returns that may meet expected trouble. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; fault: Fault }

/** Wraps a value as a good outcome. */
export const good = <T>(value: T): Outcome<T> => ({ ok: true, value })

/** Names and paths that a fault speaks of may come from a damaged file: longer ones are cut. */
const LONGEST_PLACE = 600

/** Makes a failed outcome. Its texts hold only valid characters, whatever they quote. */
export const bad = (
  code: FaultCode,
  why: string,
  hint: string,
  where: Where = {},
): { ok: false; fault: Fault } => ({
  ok: false,
  fault: { code, why: validText(why), hint: validText(hint), where: validPlace(where) },
})

const validPlace = (where: Where): Where =>
  Object.fromEntries(
    Object.entries(where).map(([key, part]) => [
      key,
      typeof part === 'string' ? cutText(validText(part), LONGEST_PLACE, '…') : part,
    ]),
  )

/** The fault with an outer layer's part of the location put in; what is known further in stays. */
export const faultAt = (fault: Fault, where: Where): Fault => ({
  ...fault,
  where: { ...where, ...fault.where },
})

/** Throws: for states that only a bug of our own can bring about. */
export function invariant(condition: unknown, what: string): asserts condition {
  if (!condition) throw new Error(`invariant broken: ${what}`)
}
