import { customType, timestamp } from 'drizzle-orm/pg-core'
import { validText } from '@stern-gate/contract'
import { storableJson } from './storableText'

/** Text as PostgreSQL takes it: what no text may hold becomes U+FFFD on the way in, here and nowhere else. */
export const text = customType<{ data: string; driverData: string }>({
  dataType: () => 'text',
  toDriver: validText,
})
/** JSON as PostgreSQL takes it. */
export const jsonb = customType<{ data: unknown; driverData: string }>({
  dataType: () => 'jsonb',
  toDriver: storableJson,
})

/** When a row was made. */
export const created = () =>
  timestamp('created', { withTimezone: true, mode: 'string' }).notNull().defaultNow()
