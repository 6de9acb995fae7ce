import { formatCount } from '@stern-gate/core/numbers'

/** A group of plain figures beside the stage. */
export interface FactGroup {
  title: string
  rows: { name: string; value: string }[]
}

export type Rows = FactGroup['rows']

/** A line of them. */
export const row = (name: string, value: string | number): Rows[number] => ({
  name,
  value: typeof value === 'number' ? formatCount(value) : value,
})
