/**
 * Does a piece of work soon after it is asked for: never twice at a time, at most once in so many
 * milliseconds, and once more when it was asked for while it ran.
 */
export function inTurn(everyMs: number, work: () => Promise<void>): () => void {
  let under: 'nothing' | 'waiting' | 'working' = 'nothing',
    again = false,
    last = -Infinity
  const ask = (): void => {
    if (under !== 'nothing') {
      again ||= under === 'working'
      return
    }
    under = 'waiting'
    setTimeout(() => void run(), Math.max(0, everyMs - (Date.now() - last)))
  }
  const run = async (): Promise<void> => {
    under = 'working'
    try {
      await work()
    } finally {
      last = Date.now()
      under = 'nothing'
      if (again) {
        again = false
        ask()
      }
    }
  }
  return ask
}
