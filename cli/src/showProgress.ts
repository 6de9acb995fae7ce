import type { Surroundings } from './surroundings'

const WIDTH = 28

/** A bar on a terminal, nothing in a pipe. */
export function showProgress(around: Surroundings): {
  show: (done: number, total: number, path: string) => void
  end: () => void
} {
  if (!around.terminal) return { show: () => undefined, end: () => undefined }
  return {
    show(done, total, path) {
      const filled = Math.round((done / total) * WIDTH)
      around.err(
        `\r\u001b[K${'='.repeat(filled)}${'·'.repeat(WIDTH - filled)} ${done} of ${total}  ${path.slice(-60)}`,
      )
    },
    end: () => around.err('\r\u001b[K'),
  }
}
