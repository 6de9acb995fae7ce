import { sendPatiently } from './sendPatiently'

/** Files of one request, with their paths in the delivery. */
export interface UploadRequest {
  id: number
  address: string
  files: { path: string; file: File }[]
}
/** What the server answered; no status where it did not. */
export interface UploadAnswer {
  id: number
  status: number | null
  body: unknown
}
export type ToUploadWorker = UploadRequest | { id: number; stop: true }

const port = self as unknown as {
  onmessage: (event: MessageEvent<ToUploadWorker>) => void
  postMessage: (answer: UploadAnswer) => void
}
const running = new Map<number, AbortController>()

// A form of many files is put together before the first byte goes: on the page it would stand in the way of
// everything else
port.onmessage = ({ data }) => {
  if ('stop' in data) running.get(data.id)?.abort()
  else void send(data)
}

async function send({ id, address, files }: UploadRequest): Promise<void> {
  const own = new AbortController()
  running.set(id, own)
  const form = new FormData()
  for (const { path, file } of files) {
    form.append('path', path)
    form.append('file', file, path)
  }
  try {
    const response = await sendPatiently(address, form, own.signal)
    port.postMessage({ id, status: response.status, body: await response.json().catch(() => null) })
  } catch {
    port.postMessage({ id, status: null, body: null })
  } finally {
    running.delete(id)
  }
}
