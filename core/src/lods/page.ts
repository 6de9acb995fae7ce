// What the page needs of levels; nothing here reads a file.
export {
  coverageOf,
  distanceOf,
  distanceOfCoverage,
  handOvers,
  pixelsAtOneMetre,
  pixelsOf,
  planSwitches,
  switchLimits,
  type SwitchPlan,
} from './switching'
export { coveragesText } from './numberList'
export { chainErrors } from './chainErrors'
