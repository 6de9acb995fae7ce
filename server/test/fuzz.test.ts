import { request as httpRequest } from 'node:http'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { seededNumbers } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { apiDocument } from '../src/http/apiDocument'
import { createClient, startTestServer, type TestServer } from './testServer'

const SEED = 20_261_129
const ROUNDS = 40
/** Longer than any call here may take, however busy the machine is. */
const HANGS_MS = 30_000

let server: TestServer
/** Ids that are there, so that calls go deeper than to “no such thing”. */
const known: Record<string, string[]> = {}
beforeAll(async () => {
  server = await startTestServer({ STERN_FILE_SECONDS: '10' })
  const api = createClient(server.running.url)
  const project = await api.project()
  const delivery = await api.deliver(project, await crateFiles({ name: 'harbour_crate_a' }))
  const [asset] = await api.assets(project)
  const detail = await api.asset(asset!.id)
  Object.assign(known, {
    project: [project],
    delivery: [delivery.id],
    asset: [asset!.id],
    sha: detail.source.files.map((f) => f.sha256),
    station: ['mesh'],
    rule: ['normals'],
  })
})
afterAll(() => server.running.stop())

interface JsonSchema {
  type?: string
  properties?: Record<string, JsonSchema>
  items?: JsonSchema
  anyOf?: JsonSchema[]
  oneOf?: JsonSchema[]
  enum?: unknown[]
  format?: string
  $ref?: string
}

const nasty: unknown[] = [
  null,
  '',
  ' ',
  '\u0000',
  '\ud83d',
  'a\udc00b',
  '🧭',
  '𠀋',
  '../../etc/passwd',
  "'; drop table assets; --",
  '%',
  '%00',
  'x'.repeat(5000),
  -1,
  0,
  1,
  2.5,
  2147483648,
  9007199254740993,
  1e308,
  '9999-99-99T99:99:99Z',
  '+275760-09-13T00:00:00.001Z',
  '0000-01-01T00:00:00Z',
  true,
  [],
  {},
  { __proto__: { a: 1 } },
  { constructor: 1 },
  [[[[[]]]]],
]

/** The same calls for a seed: of each value a valid one, or one that nobody meant. */
function inventor(seed: number) {
  const random = seededNumbers(seed)
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!
  const valueOf = (schema: JsonSchema, depth = 0): unknown => {
    if (random() < 0.18 || depth > 6) return pick(nasty)
    const choice = schema.anyOf ?? schema.oneOf
    if (choice) return valueOf(pick(choice), depth + 1)
    if (schema.enum) return pick(schema.enum)
    if (schema.type === 'object')
      return Object.fromEntries(
        Object.entries(schema.properties ?? {})
          .filter(() => random() < 0.85)
          .map(([key, of]) => [key, valueOf(of, depth + 1)]),
      )
    if (schema.type === 'array')
      return Array.from({ length: Math.floor(random() * 3) }, () => valueOf(schema.items ?? {}, depth + 1))
    if (schema.type === 'number' || schema.type === 'integer') return Math.floor(random() * 5)
    if (schema.type === 'boolean') return random() < 0.5
    if (schema.format === 'uuid') return pick([...known['asset']!, ...known['project']!])
    return pick(['a', 'colour/flip-green', 'normal-green', '2026-11-01T00:00:00.000Z', 'harbour_crate_a'])
  }
  const addressPart = (name: string): string =>
    random() < 0.6 && known[name]
      ? pick(known[name])
      : pick([
          '%00',
          '%zz',
          '..%2f..%2f',
          '-1',
          '99999999999999999999',
          '%F0%9F%A7%AD',
          '%ED%A0%80',
          'x'.repeat(3000),
          crypto.randomUUID(),
          "'%20or%201=1--",
        ])
  const queryValue = (): string =>
    pick([
      '',
      '0',
      '-1',
      '1',
      '1e9',
      '99999999999',
      'NaN',
      '%00',
      '%FF',
      'a',
      '%25',
      '2026-01-01T00:00:00Z|x',
    ])
  return { random, pick, valueOf, addressPart, queryValue }
}

const inside =
  /\bselect\b.+\bfrom\b|insert into|drizzle|node_modules|\/work\/|\/tmp\/|\.ts:\d|TypeError|ZodError|ECONN/i

interface Answer {
  status: number
  text: string
}

/** Sent as it is: the usual clients would mend addresses and headers. */
function send(method: string, path: string, body: string | Buffer | null, type: string): Promise<Answer> {
  return new Promise((resolve, reject) => {
    const call = httpRequest(
      server.running.url + path,
      {
        method,
        headers: body === null ? {} : { 'Content-Type': type, 'Content-Length': Buffer.byteLength(body) },
      },
      (response) => {
        const chunks: Buffer[] = []
        const end = () =>
          resolve({
            status: response.statusCode!,
            text: Buffer.concat(chunks).toString('latin1').slice(0, 4000),
          })
        response.on('data', (chunk: Buffer) => {
          chunks.push(chunk)
          if (response.headers['content-type']?.startsWith('text/event-stream')) {
            end()
            call.destroy()
          }
        })
        response.on('end', end)
        response.on('error', end)
      },
    )
    call.setTimeout(HANGS_MS, () => reject(new Error(`${method} ${path.slice(0, 200)} hangs`)))
    call.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ECONNRESET' || error.code === 'EPIPE'
        ? resolve({ status: 0, text: '' })
        : reject(error),
    )
    call.end(body ?? undefined)
  })
}

it('no route answers what makes no sense with a fault of its own, hangs, or tells of its inside', async () => {
  const document = apiDocument() as unknown as {
    paths: Record<
      string,
      Record<
        string,
        {
          parameters?: { name: string; in: string }[]
          requestBody?: { content: Record<string, { schema: JsonSchema }> }
        }
      >
    >
  }
  const invent = inventor(SEED)
  let calls = 0
  const answers = { good: 0, refused: 0, broken: 0 }
  for (let round = 0; round < ROUNDS; round++)
    for (const [template, methods] of Object.entries(document.paths))
      for (const [method, route] of Object.entries(methods)) {
        const path = template.replace(/\{(\w+)\}/g, (_, name: string) => invent.addressPart(name))
        const query = (route.parameters ?? [])
          .filter((p) => p.in === 'query' && invent.random() < 0.7)
          .map((p) => `${p.name}=${invent.queryValue()}`)
          .join('&')
        const content = route.requestBody?.content ?? {}
        const json = content['application/json']?.schema
        const [body, type]: [string | null, string] = json
          ? [
              invent.random() < 0.05 ? '{"a":' : JSON.stringify(invent.valueOf(json)),
              invent.random() < 0.05 ? 'text/plain' : 'application/json',
            ]
          : content['multipart/form-data']
            ? [
                '--x\r\nContent-Disposition: form-data; name="file"; filename="a\u0000.png"\r\n\r\nabc\r\n--x--\r\n',
                invent.pick([
                  'multipart/form-data',
                  'multipart/form-data; boundary=x',
                  'multipart/form-data; boundary=',
                ]),
              ]
            : [null, '']
        const called = `${method.toUpperCase()} ${path}${query ? `?${query}` : ''}`
        const answer = await send(method.toUpperCase(), `${path}${query ? `?${query}` : ''}`, body, type)
        expect(answer.status, `${called} ${body?.slice(0, 300)} → ${answer.text.slice(0, 300)}`).toBeLessThan(
          500,
        )
        if (!template.includes('docs') && !template.includes('openapi') && !template.includes('/rules/'))
          expect(answer.text, called).not.toMatch(inside)
        calls++
        answers[answer.status === 0 ? 'broken' : answer.status < 400 ? 'good' : 'refused']++
      }
  expect(calls).toBe(ROUNDS * Object.values(document.paths).flatMap((m) => Object.keys(m)).length)
  // Calls that all end at the door would show nothing
  expect(answers.good).toBeGreaterThan(calls / 6)
  expect(answers.broken).toBeLessThan(calls / 20)
}, 300_000)
