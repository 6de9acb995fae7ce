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
  bias: 3.69,
  name: -4.5,
  role: 3.24,
  ahead: 1.36,
  nextSet: -4.06,
  sharers: -4.8,
  surely: 0.07,
  apart: 5.1,
  rival: -8.81,
  together: 0.2,
  folder: 0.1,
  sibling: -0.29,
  general: -1.49,
  generalShared: 3.2,
  unexplained: -3.85,
}

/**
 * What the regression says, against the share that is right of the cells of which it says so: made-up deliveries again,
 * in bins that are pooled until they rise (Ayer and others, An empirical distribution function for sampling with
 * incomplete information, 1955). Between them straight lines.
 */
const RIGHT: readonly (readonly [number, number])[] = [
  [0, 0],
  [0.003, 0.032],
  [0.232, 0.405],
  [0.466, 0.477],
  [0.53, 0.538],
  [0.735, 0.613],
  [0.832, 0.634],
  [0.873, 0.819],
  [0.916, 0.87],
  [0.965, 0.97],
  [0.992, 0.999],
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
