/** Median of several runs, in milliseconds; the first one, which also compiles, is not counted. */
export async function median(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = []
  for (let i = 0; i <= runs; i++) times.push(await once(work))
  return middle(times.slice(1))
}

/** One run, in milliseconds. */
export async function once(work: () => unknown): Promise<number> {
  const started = performance.now()
  await work()
  return performance.now() - started
}

/**
 * Runs two pieces of work in turns, so that both see the same machine; gives the pair whose ratio is the
 * middle one, in milliseconds. The first pair, which also compiles, is not counted.
 */
export async function inPairs(
  runs: number,
  first: () => unknown,
  second: () => unknown,
): Promise<[number, number]> {
  const pairs: [number, number][] = []
  for (let i = 0; i <= runs; i++) pairs.push([await cleared(first), await cleared(second)])
  return middlePair(pairs.slice(1))
}

/**
 * One run, in milliseconds, after what the one before left behind was cleared away: a side does not pay for
 * the other.
 */
function cleared(work: () => unknown): Promise<number> {
  ;(globalThis as { gc?: () => void }).gc?.()
  return once(work)
}

/**
 * Of pairs measured in turns that whose ratio is the middle one: a machine that is lent to others is fast for
 * a while and slow for a while, and both sides of a pair see the same while.
 */
export const middlePair = (pairs: [number, number][]): [number, number] =>
  pairs.sort((p, q) => p[0] / p[1] - q[0] / q[1])[Math.floor(pairs.length / 2)]!

/** Slope of the fitted line through the logarithms: 1 is linear growth. */
export function exponent(sizes: readonly number[], times: readonly number[]): number {
  const x = sizes.map(Math.log),
    y = times.map(Math.log)
  const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length
  const mx = mean(x),
    my = mean(y)
  return (
    x.reduce((sum, v, i) => sum + (v - mx) * (y[i]! - my), 0) / x.reduce((sum, v) => sum + (v - mx) ** 2, 0)
  )
}

/** Median of some values. */
export const middle = (values: number[]): number =>
  values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!
