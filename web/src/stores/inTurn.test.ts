import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { inTurn } from './inTurn'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

it('asked many times it works once, and at most once in the time', async () => {
  let runs = 0
  const ask = inTurn(600, () => {
    runs++
    return Promise.resolve()
  })
  for (let i = 0; i < 50; i++) ask()
  await vi.advanceTimersByTimeAsync(0)
  expect(runs).toBe(1)
  ask()
  await vi.advanceTimersByTimeAsync(599)
  expect(runs).toBe(1)
  await vi.advanceTimersByTimeAsync(1)
  expect(runs).toBe(2)
})
it('asked while it works it works once more, never twice at a time', async () => {
  let runs = 0,
    at = 0,
    most = 0
  const ask = inTurn(100, async () => {
    most = Math.max(most, ++at)
    runs++
    await new Promise((resolve) => setTimeout(resolve, 1000))
    at--
  })
  ask()
  await vi.advanceTimersByTimeAsync(10)
  for (let i = 0; i < 5; i++) ask()
  await vi.advanceTimersByTimeAsync(5000)
  expect([runs, most]).toEqual([2, 1])
})
