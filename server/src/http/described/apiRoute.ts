import type * as z from 'zod'

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete'
type Answer = z.ZodType | 'bytes' | 'events'

/** A route as the description has it. */
export interface ApiRoute {
  method: Method
  path: string
  group: string
  does: string
  takes?: z.ZodType | 'files'
  query?: z.ZodObject
  gives: Answer
  status?: number
}
