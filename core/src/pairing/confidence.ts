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
  /** Its number or letter is that of another mesh. */
  against: boolean
  /** Another slot of the mesh stands in its name. */
  sibling: boolean
  /** The set is called by the mesh alone, and the mesh has several slots: it may be for any of them. */
  general: boolean
  /** Share of the set's words that nothing on the slot's side explains. */
  unexplained: number
}

/**
 * Weights of a logistic regression (Cox, The regression analysis of binary sequences, 1958), fitted to made-up
 * deliveries in many customs, with seeds that the tests do not use: `npm run bench -- --fit-confidence` fits them anew,
 * `npm run bench -- pairing` says how right they are.
 */
const WEIGHTS = {
  bias: 4.31,
  name: -5.06,
  role: 2.94,
  ahead: 1.35,
  nextSet: -4.88,
  sharers: -4.87,
  surely: 0.2,
  apart: 6.01,
  rival: -8.44,
  together: 0.29,
  folder: 0.08,
  sibling: -0.35,
  general: -1.67,
  generalShared: 3.67,
  unexplained: -3.93,
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
  general: e.general ? 1 : 0,
  generalShared: e.general ? e.sharers : 0,
  unexplained: e.unexplained,
})

const MOST = 0.995
/** Made-up deliveries hold too few of these to weigh them: a number that is another halves it. */
const IF_AGAINST = 0.5

/** Share of cells with such evidence that hold the right texture, 0 to 1. */
export function confidenceOf(evidence: CellEvidence): number {
  const features = featuresOf(evidence)
  let sum = 0
  for (const [name, weight] of Object.entries(WEIGHTS)) sum += weight * features[name as keyof typeof WEIGHTS]
  return Math.min(MOST, 1 / (1 + Math.exp(-sum))) * (evidence.against ? IF_AGAINST : 1)
}
