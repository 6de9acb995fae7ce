import type { RequestHandler } from 'express'
import { bad, findInvalidText, isValidText, type Settings } from '@stern-gate/contract'
import { FaultReply } from './faults'

const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/

/** Host name of a Host header or an Origin, in small letters; null where there is none to read. */
function hostName(text: string): string | null {
  try {
    return new URL(text.includes('://') ? text : `http://${text}`).hostname.toLowerCase()
  } catch {
    return null
  }
}

/**
 * Answers only those who ask for this server by one of its own names: a page elsewhere whose name was bound
 * anew to this machine's address asks by that name, whatever other headers its browser sends. A page of
 * another origin gets nothing either.
 */
export function ownAddress({ STERN_HOST, STERN_NAMES }: Settings): RequestHandler {
  const names = new Set(
    [STERN_HOST, ...STERN_NAMES.split(',')].map((n) => hostName(n.trim()) ?? '').filter((n) => n !== ''),
  )
  const isOwn = (name: string | null): boolean => name !== null && (LOOPBACK.test(name) || names.has(name))
  return (request, _, next) => {
    const host = request.get('Host') ?? ''
    const origin = request.get('Origin')
    if (!isOwn(hostName(host)))
      throw foreign(
        'The server is not known by the name that was asked for.',
        'Ask for it by its own address, or name this one in STERN_NAMES.',
      )
    if (origin !== undefined && (!isOwn(hostName(origin)) || !sameHost(origin, host)))
      throw foreign('The request comes from a page of another origin.', "Use Stern Gate's own page.")
    const site = request.get('Sec-Fetch-Site')
    const reads = request.method === 'GET' || request.method === 'HEAD'
    if (!reads && site !== undefined && site !== 'same-origin' && site !== 'none')
      throw foreign('The request comes from another site.', "Use Stern Gate's own page.")
    next()
  }
}

const sameHost = (origin: string, host: string): boolean => {
  try {
    return new URL(origin).host.toLowerCase() === host.toLowerCase()
  } catch {
    return false
  }
}

const foreign = (why: string, hint: string): FaultReply =>
  new FaultReply(bad('request/foreign', why, hint).fault)

/** Refuses addresses that hold NUL or halves of characters, or that are not percent-encoded. */
export const readableAddress: RequestHandler = (request, _, next) => {
  let decoded: string | null = null
  try {
    decoded = decodeURIComponent(request.url.replaceAll('+', ' '))
  } catch {
    // Not percent-encoded
  }
  if (decoded === null || !isValidText(decoded))
    throw new FaultReply(
      bad('request/invalid-text', 'The address holds what is no text.', 'Check the address.').fault,
    )
  next()
}

/** Refuses bodies in which a text holds NUL or halves of characters, with its place. */
export const validBody: RequestHandler = (request, _, next) => {
  const part = findInvalidText(request.body)
  if (part !== null)
    throw new FaultReply(
      bad(
        'request/invalid-text',
        `${part} holds what is no text: a NUL, or half of a character.`,
        'Send the text without it.',
        { part },
      ).fault,
    )
  next()
}
