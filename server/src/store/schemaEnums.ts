import { pgEnum } from 'drizzle-orm/pg-core'
import {
  assetKindSchema,
  bulkStates,
  deliveryStateSchema,
  dispatchStates,
  fileParts,
  fileStateSchema,
  foundKinds,
  levels,
  stations,
  verdictSchema,
  versionStateSchema,
} from '@stern-gate/contract'

/** The words of an enum of the API, as a column takes them. */
const wordsOf = <T extends string>({ options }: { options: readonly T[] }): [T, ...T[]] =>
  options as [T, ...T[]]

// The database takes no other word than the API knows. Their order is that of the API, too: a comparison or a sort
// in SQL goes by it.
export const deliveryState = pgEnum('delivery_state', wordsOf(deliveryStateSchema))
export const fileState = pgEnum('file_state', wordsOf(fileStateSchema))
export const assetKind = pgEnum('asset_kind', wordsOf(assetKindSchema))
export const versionState = pgEnum('version_state', wordsOf(versionStateSchema))
export const verdict = pgEnum('verdict', wordsOf(verdictSchema))
export const station = pgEnum('station', stations)
export const findingLevel = pgEnum('finding_level', levels)
export const filePart = pgEnum('file_part', fileParts)
export const namedKind = pgEnum('named_kind', foundKinds)
export const actState = pgEnum('act_state', bulkStates)
export const dispatchState = pgEnum('dispatch_state', dispatchStates)
