import { extendZodWithOpenApi, OpenAPIRegistry, OpenApiGeneratorV31 } from '@asteasolutions/zod-to-openapi'
import * as z from 'zod'
import { allRoutes, applicationVersion, eventSchema, faultReplySchema } from '@stern-gate/contract'

extendZodWithOpenApi(z)

const fault = {
  description: 'A fault: code, why, hint, where.',
  content: { 'application/json': { schema: faultReplySchema } },
}

/** The API as OpenAPI 3.1. */
export function apiDocument(): ReturnType<OpenApiGeneratorV31['generateDocument']> {
  const registry = new OpenAPIRegistry()
  for (const { method, path, group, does, takes, query, gives, status = 200 } of allRoutes) {
    const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!)
    const params = z.object(Object.fromEntries(names.map((n) => [n, z.string()])))
    const content =
      gives === 'bytes'
        ? { 'application/octet-stream': { schema: z.string() } }
        : gives === 'events'
          ? { 'text/event-stream': { schema: eventSchema } }
          : { 'application/json': { schema: gives } }
    const body =
      takes === undefined
        ? undefined
        : takes === 'files'
          ? {
              content: {
                'multipart/form-data': { schema: z.object({ path: z.string(), file: z.string() }) },
              },
            }
          : { content: { 'application/json': { schema: takes } } }
    registry.registerPath({
      method,
      path: `/api${path}`,
      tags: [group],
      summary: does,
      request: {
        ...(names.length > 0 ? { params } : {}),
        ...(query ? { query } : {}),
        ...(body ? { body } : {}),
      },
      responses: { [status]: { description: 'Done.', content }, default: fault },
    })
  }
  return new OpenApiGeneratorV31(registry.definitions).generateDocument({
    openapi: '3.1.0',
    info: {
      title: 'Stern Gate',
      version: applicationVersion,
      description:
        'Deliveries in, verdicts and mended files out. A page of another site may not change anything.',
    },
  })
}
