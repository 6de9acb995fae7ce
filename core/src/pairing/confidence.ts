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
  /** Another texture of its set feeds the slot already. */
  wired: boolean
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

/**
 * What the regression says, against the share that is right of the cells of which it says so: made-up deliveries again,
 * in bins that are pooled until they rise (Ayer and others, An empirical distribution function for sampling with
 * incomplete information, 1955). Between them straight lines.
 */
const RIGHT: readonly (readonly [number, number])[] = [
  [0, 0],
  [0.003, 0.03],
  [0.227, 0.41],
  [0.464, 0.491],
  [0.537, 0.533],
  [0.644, 0.579],
  [0.755, 0.59],
  [0.833, 0.691],
  [0.869, 0.77],
  [0.916, 0.898],
  [0.965, 0.967],
  [0.993, 0.999],
  [1, 1],
]

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
/** … and a file that wires one texture of a set says whose the others are. */
const IF_WIRED = 0.96

/** What the regression says of evidence, 0 to 1. */
function saidOf(evidence: CellEvidence): number {
  const features = featuresOf(evidence)
  let sum = 0
  for (const [name, weight] of Object.entries(WEIGHTS)) sum += weight * features[name as keyof typeof WEIGHTS]
  return 1 / (1 + Math.exp(-sum))
}

/** Share of cells with such evidence that hold the right texture, 0 to 1. */
export function confidenceOf(evidence: CellEvidence): number {
  const said = saidOf(evidence)
  const at = RIGHT.findIndex(([from]) => from >= said)
  const [to, high] = RIGHT[Math.max(1, at)]!,
    [from, low] = RIGHT[Math.max(1, at) - 1]!
  const right = low + ((high - low) * (said - from)) / (to - from)
  const known = evidence.wired ? IF_WIRED * evidence.role : 0
  return Math.max(known, Math.min(MOST, right) * (evidence.against ? IF_AGAINST : 1))
}
