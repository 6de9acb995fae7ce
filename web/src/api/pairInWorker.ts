import type { Pairing, PairingDecision, PairingProblem, Rulebook } from '@stern-gate/contract'
import type { PairingAnswer, PairingRequest } from './pairingWorker'

let worker: Worker | null = null,
  asked = 0
const open = new Map<number, { good: (pairing: Pairing) => void; bad: (error: Error) => void }>()

function startWorker(): Worker {
  const made = new Worker(new URL('./pairingWorker.ts', import.meta.url), { type: 'module' })
  made.onmessage = ({ data }: MessageEvent<PairingAnswer>) => {
    open.get(data.id)?.good(data.pairing)
    open.delete(data.id)
  }
  made.onerror = (event) => {
    for (const { bad } of open.values()) bad(new Error(event.message))
    open.clear()
    made.terminate()
    worker = null
  }
  return made
}

/** Pairs slots and textures beside the page. Plain objects only: what is reactive cannot be sent. */
export function pairInWorker(
  problem: PairingProblem,
  rulebook: Rulebook,
  decided: readonly PairingDecision[],
): Promise<Pairing> {
  worker ??= startWorker()
  const id = ++asked
  return new Promise((good, bad) => {
    open.set(id, { good, bad })
    worker!.postMessage({ id, problem, rulebook, decided } satisfies PairingRequest)
  })
}
