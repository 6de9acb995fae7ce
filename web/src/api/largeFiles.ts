import { DetailedError, Upload } from 'tus-js-client'
import { faultReplySchema } from '@stern-gate/contract'
import { CallFailed } from './client'
import type { BroughtFile } from './droppedFiles'

const PIECE_BYTES = 8 * 1024 * 1024
/** Waits between tries while the connection is lost. */
const RETRIES_MS = [0, 1000, 3000, 5000, 10_000, 20_000]

/** Sends one large file into a delivery. What was sent of it before, in this browser, is not sent again. */
export function sendLargeFile(
  delivery: string,
  { path, file }: BroughtFile,
  progress: (bytesSent: number) => void,
  signal: AbortSignal,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const upload = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: PIECE_BYTES,
      retryDelays: RETRIES_MS,
      metadata: { delivery, path },
      removeFingerprintOnSuccess: true,
      fingerprint: async () => ['stern-gate', delivery, path, file.size, file.lastModified].join(' '),
      // Offline, too: the connection may come back
      onShouldRetry: (error) =>
        faultOf(error) === null && isPassing(error.originalResponse?.getStatus() ?? 0),
      onProgress: progress,
      onSuccess: () => resolve(),
      onError: (error) => reject(faultOf(error) ?? error),
    })
    signal.addEventListener('abort', () => {
      void upload.abort(true)
      reject(new DOMException('stopped', 'AbortError'))
    })
    void upload.findPreviousUploads().then(([before]) => {
      if (before) upload.resumeFromPreviousUpload(before)
      upload.start()
    }, reject)
  })
}

/** No answer, a server in trouble, or a piece that another request still holds. */
const isPassing = (status: number): boolean =>
  status === 0 || status >= 500 || status === 409 || status === 423

/** What the server said, where it said something. */
function faultOf(error: Error | DetailedError): CallFailed | null {
  const text = error instanceof DetailedError ? error.originalResponse?.getBody() : null
  try {
    const fault = faultReplySchema.safeParse(JSON.parse(text ?? ''))
    return fault.success ? new CallFailed(fault.data.fault) : null
  } catch {
    return null
  }
}
