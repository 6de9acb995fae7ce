import { SaidError } from '../words/troubleWords'

/** Asks a worker that answers each message once, in order. */
export function asking<Ask, Answer>(worker: Worker): (what: Ask) => Promise<Answer> {
  const waiting: { good: (answer: Answer) => void; bad: (error: Error) => void }[] = []
  worker.onmessage = ({ data }: MessageEvent<Answer>) => waiting.shift()?.good(data)
  worker.onerror = (event) => {
    for (const { bad } of waiting.splice(0))
      bad(new SaidError(`What works beside the page broke off: ${event.message}.`))
  }
  return (what) =>
    new Promise((good, bad) => {
      waiting.push({ good, bad })
      worker.postMessage(what)
    })
}
