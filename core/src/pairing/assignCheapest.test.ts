import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { assignCheapest, type Offer } from './assignCheapest'

const OPEN = -0.3,
  PRICE = 0.12

/** The least cost of all ways there are. */
function leastOfAll(lines: number, offers: readonly Offer[]): number {
  const of = Array.from({ length: lines }, (_, line) => offers.filter((o) => o.line === line))
  const walk = (line: number, users: ReadonlyMap<number, number>): number => {
    if (line === lines) return 0
    let best = OPEN + walk(line + 1, users)
    for (const { column, cost } of of[line]!) {
      const before = users.get(column) ?? 0
      const rest = walk(line + 1, new Map(users).set(column, before + 1))
      best = Math.min(best, cost + (before > 0 ? PRICE : 0) + rest)
    }
    return best
  }
  return walk(0, new Map())
}

function costOf(taken: Int32Array, offers: readonly Offer[]): number {
  const users = new Map<number, number>()
  let sum = 0
  for (const index of taken) {
    if (index < 0) {
      sum += OPEN
      continue
    }
    const { column, cost } = offers[index]!
    sum += cost + (users.has(column) ? PRICE : 0)
    users.set(column, 1)
  }
  return sum
}

describe('an assignment', () => {
  it('gives a line the worse of two columns, where another has no choice', () => {
    const offers = [
      { line: 0, column: 0, cost: -0.9 },
      { line: 0, column: 1, cost: -0.85 },
      { line: 1, column: 0, cost: -0.8 },
    ]
    // Sharing column 0 would be −0.9 − 0.8 + 0.12 = −1.58; apart it is −0.85 − 0.8 = −1.65
    expect([...assignCheapest(2, 2, offers, { open: OPEN, price: PRICE })]).toEqual([1, 2])
  })
  it('shares a column where that is worth its price, and leaves open what is worth less than nothing', () => {
    const offers = [
      { line: 0, column: 0, cost: -0.9 },
      { line: 1, column: 0, cost: -0.6 },
      { line: 2, column: 0, cost: -0.4 },
    ]
    // −0.6 + 0.12 is better than −0.3, −0.4 + 0.12 is not
    expect([...assignCheapest(3, 1, offers, { open: OPEN, price: PRICE })]).toEqual([0, 1, -1])
  })
  it('costs as little as the best of all ways', () => {
    const offer = fc.record({
      line: fc.nat(4),
      column: fc.nat(3),
      cost: fc.integer({ min: -100, max: -10 }).map((c) => c / 100),
    })
    fc.assert(
      fc.property(
        fc.uniqueArray(offer, { maxLength: 14, selector: (o) => `${o.line} ${o.column}` }),
        (offers) => {
          const taken = assignCheapest(5, 4, offers, { open: OPEN, price: PRICE })
          taken.forEach((index, line) => {
            if (index >= 0) expect(offers[index]!.line).toBe(line)
          })
          expect(costOf(taken, offers)).toBeCloseTo(leastOfAll(5, offers), 9)
        },
      ),
      { numRuns: 400 },
    )
  })
})
