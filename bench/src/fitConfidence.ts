import { choosePairs, defaultRulebook, evidenceOfChosen, featuresOf } from '@stern-gate/core'
import { cellKey, customs, makeDelivery } from '@stern-gate/core/fixtures'

/** Seeds that no test and no figure uses. */
const SEEDS = [1001, 1002, 1003, 1004, 1005, 1006, 1007, 1008]
/** Keeps weights of features that hardly ever differ near nought. */
const RIDGE = 0.5
const ROUNDS = 25

/**
 * Fits the weights of `core/pairing/confidence` to made-up deliveries: a logistic regression by Newton's method.
 * Gives them as they stand there.
 */
export function fitConfidence(): Record<string, number> {
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
  return Object.fromEntries(names.map((name, i) => [name, Number(weights[i]!.toFixed(2))]))
}

function newtonStep(
  weights: readonly number[],
  rows: readonly { features: number[]; right: number }[],
): number[] {
  const n = weights.length
  // The matrix of second derivatives, with the gradient as its last column
  const system = weights.map((w, i) => [...weights.map((_, j) => (i === j ? RIDGE : 0)), -RIDGE * w])
  for (const { features, right } of rows) {
    const said = 1 / (1 + Math.exp(-features.reduce((sum, f, i) => sum + f * weights[i]!, 0)))
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
