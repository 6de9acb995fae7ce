// What the page needs of levels; nothing here reads a file.
export {
  coverageOf,
  distanceOf,
  distanceOfCoverage,
  handOvers,
  pixelsAtOneMetre,
  planSwitches,
} from './switching'
export { toFourFigures } from './toFourFigures'
export { chainErrors } from './chainErrors'
export {
  BANDS,
  distanceTo,
  levelAt,
  scatterCopies,
  scatterCost,
  type ScatterCost,
  type ScatteredCopies,
} from './scatter'
