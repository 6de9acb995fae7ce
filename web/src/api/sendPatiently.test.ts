import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { AGAIN_AFTER, sendPatiently } from './sendPatiently'

const answers = (...statuses: (number | Error)[]) => {
  const asked = vi.fn(async () => {
    const next = statuses.shift() ?? 200
    if (next instanceof Error) throw next
    return new Response(null, { status: next })
  })
  vi.stubGlobal('fetch', asked)
  return asked
}
beforeEach(() => void vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const sent = () => sendPatiently('/x', new FormData(), new AbortController().signal)

describe('a form that is sent', () => {
  it('is sent once where it is taken, or refused for good', async () => {
    for (const status of [200, 413, 500]) {
      const asked = answers(status)
      expect((await sent()).status).toBe(status)
      expect(asked).toHaveBeenCalledTimes(1)
    }
  })
  it('is sent again after a while where the server waits, and not before', async () => {
    const asked = answers(503, 503, 200),
      done = sent()
    await vi.advanceTimersByTimeAsync(AGAIN_AFTER[0] - 1)
    expect(asked).toHaveBeenCalledTimes(1)
    await vi.advanceTimersByTimeAsync(1)
    expect(asked).toHaveBeenCalledTimes(2)
    await vi.advanceTimersByTimeAsync(AGAIN_AFTER[1])
    expect((await done).status).toBe(200)
    expect(asked).toHaveBeenCalledTimes(3)
  })
  it('gives what was answered last where the server goes on waiting', async () => {
    const asked = answers(...Array<number>(9).fill(503)),
      done = sent()
    await vi.advanceTimersByTimeAsync(60_000)
    expect((await done).status).toBe(503)
    expect(asked).toHaveBeenCalledTimes(AGAIN_AFTER.length + 1)
  })
  it('ends with the fault where there is no server, or it was stopped', async () => {
    answers(new DOMException('stopped', 'AbortError'))
    await expect(sent()).rejects.toThrow('stopped')
  })
})
