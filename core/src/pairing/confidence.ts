/** What is known of one texture for one input of one slot. */
export interface CellEvidence {
  /** How well the names go together, 0 to 1. */
  name: number
  /** How surely the texture carries what the input takes, 0 to 1. */
  role: number
  /** How far the next best texture for this cell is behind, 0 to 1. */
  ahead: number
  /** How far the next set that could be this slot's is behind, 0 to 1. */
  nextSet: number
  /** Other slots that have the same texture, 0 to 1 for three and more. */
  sharers: number
  /** How far the slot that wants this texture most is ahead of this one, 0 to 1. */
  rival: number
  /** Share of the slot's other cells that have textures of the same set; one half where there are none. */
  together: number
  /** Share of the folder's words that speak of the mesh. */
  folder: number
  /** Another slot of the mesh stands in its name. */
  sibling: boolean
  /** Share of the set's words that nothing on the slot's side explains. */
  unexplained: number
}

/**
 * Weights of a logistic regression (Cox, The regression analysis of binary sequences, 1958), fitted to made-up
 * deliveries in many customs, with seeds that the tests do not use: `npm run bench -- --fit-confidence` fits them anew,
 * `npm run bench -- pairing` says how right they are.
 */
const WEIGHTS = {
  bias: 2.65,
  name: -4.68,
  role: 2.64,
  ahead: 0.95,
  nextSet: -3.63,
  sharers: -3.78,
  surely: 3.15,
  apart: 5.76,
  rival: -6.16,
  together: 0.38,
  folder: 0.07,
  sibling: -1.03,
  unexplained: -6.85,
}

/** Evidence as the numbers that the weights stand before. */
export const featuresOf = (e: CellEvidence): Record<keyof typeof WEIGHTS, number> => ({
  bias: 1,
  name: e.name,
  role: e.role,
  ahead: e.ahead,
  nextSet: e.nextSet,
  sharers: e.sharers,
  surely: e.name * e.role,
  apart: e.name * e.nextSet,
  rival: e.rival,
  together: e.together,
  folder: e.folder,
  sibling: e.sibling ? 1 : 0,
  unexplained: e.unexplained,
})

const MOST = 0.995

/** Share of cells with such evidence that hold the right texture, 0 to 1. */
export function confidenceOf(evidence: CellEvidence): number {
  const features = featuresOf(evidence)
  let sum = 0
  for (const [name, weight] of Object.entries(WEIGHTS)) sum += weight * features[name as keyof typeof WEIGHTS]
  return Math.min(MOST, 1 / (1 + Math.exp(-sum)))
}
