import type * as z from 'zod'

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete'
type Takes = z.ZodType | 'files' | undefined
type Gives = z.ZodType | 'bytes' | 'events'

/**
 * One route of the API, said once: the server answers by it, the page calls by it, and the description of the
 * API is made from it. `path` names its parts in braces.
 */
export interface ApiRoute<
  Path extends string = string,
  T extends Takes = Takes,
  Q extends z.ZodObject | undefined = z.ZodObject | undefined,
  G extends Gives = Gives,
> {
  method: Method
  path: Path
  group: string
  does: string
  /** Schema of the body, or `files` for multipart/form-data. */
  takes?: T
  query?: Q
  gives: G
  status?: number
}

/** Ties a route's types together. */
export const defineRoute = <
  const Path extends string,
  T extends Takes = undefined,
  Q extends z.ZodObject | undefined = undefined,
  G extends Gives = Gives,
>(
  route: ApiRoute<Path, T, Q, G>,
): ApiRoute<Path, T, Q, G> => route

/** Parts of an address by name: `/assets/{asset}` has `asset`. */
export type PathParts<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? { [K in Name]: string } & PathParts<Rest>
  : unknown

export type PartsOf<R extends ApiRoute> = PathParts<R['path']>
type Within<S> = Exclude<S, undefined>
type Sent<S> = [S] extends [never] ? undefined : S extends z.ZodType ? z.input<S> : undefined
type Read<S> = [S] extends [never] ? undefined : S extends z.ZodType ? z.output<S> : undefined
/** What a caller sends as body, and what the handler reads. */
export type BodySent<R extends ApiRoute> = Sent<Within<R['takes']>>
export type BodyRead<R extends ApiRoute> = Read<Within<R['takes']>>
/** The same of what stands behind the question mark; a caller may leave out what has a default. */
export type QueryRead<R extends ApiRoute> = Read<Within<R['query']>>
export type QuerySent<R extends ApiRoute> = QueryRead<R> extends object ? Partial<QueryRead<R>> : undefined
/** What the handler answers, and what a caller gets; nothing where bytes or events are written by hand. */
export type AnswerGiven<R extends ApiRoute> = R['gives'] extends z.ZodType ? z.input<R['gives']> : void
export type AnswerGot<R extends ApiRoute> = R['gives'] extends z.ZodType ? z.output<R['gives']> : never
