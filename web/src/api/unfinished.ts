import type { Delivery } from '@stern-gate/contract'
import { getDelivery } from './client'

/** A delivery that this browser began and did not send to its end, with what came of it. */
export interface Unfinished {
  delivery: Delivery
  there: ReadonlyMap<string, number>
}

const keyOf = (project: string): string => `stern-gate-delivery-${project}`
const lockOf = (delivery: string): string => `stern-gate-sending-${delivery}`

/**
 * The one that was begun last in a project; null when it was sent, stopped, or is being sent by another page
 * of this browser.
 */
export async function findUnfinished(project: string): Promise<Unfinished | null> {
  const id = localStorage.getItem(keyOf(project))
  const delivery = id === null ? null : await getDelivery(id).catch(() => null)
  if (delivery?.state !== 'receiving') return null
  const held = (await navigator.locks?.query())?.held ?? []
  return held.some((l) => l.name === lockOf(delivery.id))
    ? null
    : { delivery, there: new Map(delivery.all.map((f) => [f.path, f.sizeBytes])) }
}

/** Sends a delivery under a lock that other pages of this browser see; remembers it until it is sent. */
export async function sendRemembered(
  project: string,
  delivery: string,
  send: () => Promise<void>,
): Promise<void> {
  localStorage.setItem(keyOf(project), delivery)
  // Only pages from a safe address have locks
  await (navigator.locks ? navigator.locks.request(lockOf(delivery), send) : send())
  if (localStorage.getItem(keyOf(project)) === delivery) localStorage.removeItem(keyOf(project))
}
