import { choosePairs, defaultRulebook, evidenceOfChosen, featuresOf } from '@stern-gate/core'
import { cellKey, customs, makeDelivery } from '@stern-gate/core/fixtures'

/** Seeds that no test and no figure uses. */
const SEEDS = [1001, 1002, 1003, 1004, 1005, 1006, 1007, 1008]
/** Keeps weights of features that hardly ever differ near nought. */
const RIDGE = 0.5
const ROUNDS = 25

/**
 * Fits the weights of `core/pairing/confidence` to made-up deliveries – a logistic regression by Newton's method –
 * and what is right of what they say. Gives both as they stand there.
 */
export function fitConfidence(): { weights: Record<string, number>; right: [number, number][] } {
  const rows: { features: number[]; right: number }[] = []
  let names: string[] = []
  customs.forEach((custom, i) => {
    for (const seed of SEEDS) {
      const { problem, truth } = makeDelivery(custom, seed + i * 10)
      const { room, chosen } = choosePairs(problem, defaultRulebook)
      for (const { line, role, texture, evidence } of evidenceOfChosen(chosen)) {
        const features = featuresOf(evidence)
        names = Object.keys(features)
        const right = truth.get(cellKey(room.slots[line]!.slot.id, role))?.has(texture) ?? false
        rows.push({ features: Object.values(features), right: right ? 1 : 0 })
      }
    }
  })
  let weights = names.map(() => 0)
  for (let round = 0; round < ROUNDS; round++) weights = newtonStep(weights, rows)
  const rounded = weights.map((w) => Number(w.toFixed(2)))
  return {
    weights: Object.fromEntries(names.map((name, i) => [name, rounded[i]!])),
    right: rightOfSaid(rows.map((r) => ({ said: saidBy(rounded, r.features), right: r.right }))),
  }
}

const saidBy = (weights: readonly number[], features: readonly number[]): number =>
  1 / (1 + Math.exp(-features.reduce((sum, f, i) => sum + f * weights[i]!, 0)))

/** Upper ends of the bins that are counted. */
const BINS = [0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.85, 0.9, 0.93, 0.96, 0.98, 1.01]

/** Share that is right by what is said, in bins that are pooled until each is above the one before. */
function rightOfSaid(cells: readonly { said: number; right: number }[]): [number, number][] {
  const pools: { said: number; right: number; count: number }[] = []
  BINS.forEach((to, i) => {
    const bin = cells.filter((c) => c.said < to && c.said >= (BINS[i - 1] ?? 0))
    if (bin.length === 0) return
    pools.push(
      bin.reduce<{ said: number; right: number; count: number }>(
        (p, c) => ({ said: p.said + c.said, right: p.right + c.right, count: p.count + 1 }),
        {
          said: 0,
          right: 0,
          count: 0,
        },
      ),
    )
    for (let last = pools.length - 1; last > 0; last--) {
      const [a, b] = [pools[last - 1]!, pools[last]!]
      if (a.right / a.count < b.right / b.count) break
      pools.splice(last - 1, 2, { said: a.said + b.said, right: a.right + b.right, count: a.count + b.count })
    }
  })
  const points = pools.map((p): [number, number] => [
    Number((p.said / p.count).toFixed(3)),
    Number((p.right / p.count).toFixed(3)),
  ])
  return [[0, 0], ...points, [1, 1]]
}

function newtonStep(
  weights: readonly number[],
  rows: readonly { features: number[]; right: number }[],
): number[] {
  const n = weights.length
  // The matrix of second derivatives, with the gradient as its last column
  const system = weights.map((w, i) => [...weights.map((_, j) => (i === j ? RIDGE : 0)), -RIDGE * w])
  for (const { features, right } of rows) {
    const said = saidBy(weights, features)
    const weight = Math.max(1e-6, said * (1 - said))
    for (let i = 0; i < n; i++) {
      system[i]![n]! += (right - said) * features[i]!
      for (let j = 0; j < n; j++) system[i]![j]! += weight * features[i]! * features[j]!
    }
  }
  const step = solve(system)
  return weights.map((w, i) => w + step[i]!)
}

/** Solves a square system, whose last column is the right side, by elimination with pivots. */
function solve(system: number[][]): number[] {
  const n = system.length
  for (let i = 0; i < n; i++) {
    let pivot = i
    for (let r = i + 1; r < n; r++) if (Math.abs(system[r]![i]!) > Math.abs(system[pivot]![i]!)) pivot = r
    ;[system[i], system[pivot]] = [system[pivot]!, system[i]!]
    for (let r = 0; r < n; r++) {
      if (r === i) continue
      const factor = system[r]![i]! / system[i]![i]!
      for (let c = i; c <= n; c++) system[r]![c]! -= factor * system[i]![c]!
    }
  }
  return system.map((row, i) => row[n]! / row[i]!)
}
