import { SaidError } from '../words/troubleWords'
import type { DropResult, DropScene } from './dropBalls'
import type { DropAnswer } from './dropWorker'

/** Drops balls beside the page; the worker goes with the answer, or when it is not wanted any more. */
export function dropInWorker(scene: DropScene, signal: AbortSignal): Promise<DropResult> {
  const worker = new Worker(new URL('./dropWorker.ts', import.meta.url), { type: 'module' })
  return new Promise<DropResult>((good, bad) => {
    signal.addEventListener('abort', () => bad(signal.reason as Error))
    worker.onmessage = ({ data }: MessageEvent<DropAnswer>) =>
      data.result ? good(data.result) : bad(new SaidError(`The balls could not be dropped: ${data.why}.`))
    worker.onerror = (event) => bad(new SaidError(`The balls could not be dropped: ${event.message}.`))
    worker.postMessage(scene)
  }).finally(() => worker.terminate())
}
