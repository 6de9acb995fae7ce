import type { Router } from 'express'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import * as z from 'zod'
import { allRoutes, publishedSchemas, routes, type ApiRoute } from '@stern-gate/contract'
import { remedies, remedyInfo, rules } from '@stern-gate/core'
import { answering } from './answer'
import { apiDocument } from './apiDocument'
import { notFound } from './faults'

/** The API's own description: as OpenAPI and as a page to read. */
export function documentRoutes(rulePages: string): Router {
  let document: Record<string, unknown> | null = null,
    page: string | null = null
  const { router, on } = answering()
  on(routes.getDescription, () => {
    return (document ??= { ...apiDocument() })
  })
  on(routes.getSchema, ({ parts: { name } }) => {
    if (!Object.hasOwn(publishedSchemas, name)) throw notFound('schema')
    return publishedSchemas[name]!()
  })
  on(routes.getRulePage, async ({ parts }) => {
    const rule = `${parts.station}/${parts.rule}`
    // Only ids of rules name a file
    if (!rules.some((r) => r.id === rule)) throw notFound('rule')
    return { rule, text: await readFile(join(rulePages, `${rule.replace('/', '-')}.md`), 'utf8') }
  })
  on(routes.listRemedies, () => {
    return remedies.map(remedyInfo)
  })
  on(routes.getDescriptionPage, ({ response }) => {
    response.type('html').send((page ??= documentPage()))
  })
  return router
}

const escape = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

const style = [
  'body{font:15px/1.5 Barlow,sans-serif;background:#f5f0e3;color:#17323a;max-width:980px;margin:0 auto;padding:28px}',
  'h1{font-size:24px}',
  'h2{margin:28px 0 6px;font-size:17px}',
  'details{background:#fffdf8;border:1px solid #d3cab4;border-radius:3px;margin:6px 0;padding:7px 12px}',
  'summary{cursor:pointer}',
  'code,pre{font:12.5px/1.45 monospace}',
  'pre{overflow:auto;max-height:420px;background:#f5f0e3;padding:10px;border-radius:3px}',
  '.m{display:inline-block;width:52px;color:#0e6b75;font-weight:600}',
  'small{color:#56676b}',
].join('')

function documentPage(): string {
  const groups = [...new Set(allRoutes.map((r) => r.group))]
  const head = `<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Stern Gate: the API</title><style>${style}</style>`
  const opening = `<h1>Stern Gate: the API</h1>
<p>All of it takes and gives JSON by the schemas below, but for files.
A fault has a code, why, hint and where, in the same shape everywhere.
As OpenAPI 3.1: <a href="openapi.json">openapi.json</a>.</p>`
  return `<!doctype html>${head}${opening}${groups
    .map(
      (g) =>
        `<h2>${escape(g)}</h2>${allRoutes
          .filter((r) => r.group === g)
          .map(routeText)
          .join('')}`,
    )
    .join('')}</html>`
}

function routeText({ method, path, does, takes, query, gives, status }: ApiRoute): string {
  const schema = (title: string, of: z.ZodType): string =>
    `<p>${title}</p><pre>${escape(JSON.stringify(z.toJSONSchema(of, { io: 'input', unrepresentable: 'any' }), null, 2))}</pre>`
  const parts = [
    query ? schema('Query', query) : '',
    takes === 'files' ? '<p>Takes files as multipart/form-data.</p>' : takes ? schema('Takes', takes) : '',
    gives === 'bytes'
      ? '<p>Gives bytes.</p>'
      : gives === 'events'
        ? '<p>Gives server-sent events.</p>'
        : schema(`Gives (${status ?? 200})`, gives),
  ]
  const verb = `<span class="m">${method.toUpperCase()}</span>`,
    address = `<code>/api${escape(path)}</code>`
  return `<details><summary>${verb} ${address} <small>${escape(does)}</small></summary>${parts.join('')}</details>`
}
