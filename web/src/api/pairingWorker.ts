import type { Pairing, PairingDecision, PairingProblem, Rulebook } from '@stern-gate/contract'
import { pairDelivery } from '@stern-gate/core/pairing'

/** What is paired, by which words, with what a person decided. */
export interface PairingRequest {
  id: number
  problem: PairingProblem
  rulebook: Rulebook
  decided: readonly PairingDecision[]
}
export interface PairingAnswer {
  id: number
  pairing: Pairing
}

const port = self as unknown as {
  onmessage: (event: MessageEvent<PairingRequest>) => void
  postMessage: (answer: PairingAnswer) => void
}

// Pairing hundreds of slots takes half a second: on the page it would stand still
port.onmessage = ({ data: { id, problem, rulebook, decided } }) =>
  port.postMessage({ id, pairing: pairDelivery(problem, rulebook, decided) })
