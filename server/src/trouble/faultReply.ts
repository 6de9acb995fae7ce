import { bad, type Fault } from '@stern-gate/contract'

/** Thrown while a request is answered, to answer with a fault; the final handler gives it its status. */
export class FaultReply extends Error {
  constructor(readonly fault: Fault) {
    super(fault.code)
  }
}

export const notFound = (what: string): FaultReply =>
  new FaultReply(
    bad('request/not-found', `There is no such ${what}.`, 'It may have been removed; go back to the list.', {
      part: what,
    }).fault,
  )

/** Says that a delivery takes nothing more. */
export const deliveryClosed = (row: { number: number; state: string }): FaultReply =>
  new FaultReply(
    bad(
      row.state === 'cancelled' ? 'delivery/cancelled' : 'delivery/closed',
      `Delivery ${row.number} takes nothing more: it is ${row.state}.`,
      'Begin a new delivery.',
    ).fault,
  )
