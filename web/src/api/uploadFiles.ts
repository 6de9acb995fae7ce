import type { ToUploadWorker, UploadAnswer } from './uploadWorker'

let worker: Worker | null = null,
  last = 0
const waiting = new Map<number, (answer: UploadAnswer) => void>()

function started(): Worker {
  if (worker) return worker
  const made = new Worker(new URL('./uploadWorker.ts', import.meta.url), { type: 'module' })
  made.onmessage = ({ data }: MessageEvent<UploadAnswer>) => settle(data)
  // One that broke answers nothing any more
  made.onerror = () => {
    worker = null
    for (const id of [...waiting.keys()]) settle({ id, status: null, body: null })
  }
  return (worker = made)
}

function settle(answer: UploadAnswer): void {
  waiting.get(answer.id)?.(answer)
  waiting.delete(answer.id)
}

/**
 * Sends files in one request from a worker, and gives what the server answered. Rejects with an AbortError
 * when it is stopped.
 */
export function uploadFiles(
  address: string,
  files: readonly { path: string; file: File }[],
  signal: AbortSignal,
): Promise<UploadAnswer> {
  const id = ++last,
    say = (message: ToUploadWorker): void => started().postMessage(message)
  const stopped = (): DOMException => new DOMException('The upload was stopped.', 'AbortError')
  return new Promise((resolve, reject) => {
    if (signal.aborted) return reject(stopped())
    const stop = (): void => {
      say({ id, stop: true })
      waiting.delete(id)
      reject(stopped())
    }
    signal.addEventListener('abort', stop, { once: true })
    waiting.set(id, (answer) => {
      signal.removeEventListener('abort', stop)
      resolve(answer)
    })
    say({ id, address, files: files.map(({ path, file }) => ({ path, file })) })
  })
}
