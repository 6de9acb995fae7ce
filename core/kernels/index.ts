// What core takes from the kernels.
export { lookUp, markPlaces, mergeVertices, numberPlaces, reach } from './points'
export { keepApart, listCrowded, markCells } from './near'
export { cacheUse, normalsAgainst, notUnit, surveyTriangles } from './triangles'
export { densityBins, flatten, nameIslands, surveySheet } from './sheet'
export {
  beginWalk,
  countEdges,
  duplicateCount,
  endBuckets,
  fillBuckets,
  markShells,
  nonManifoldCount,
  numberShells,
  openCount,
  sumShells,
  turnedCount,
  walkEdges,
} from './topology'
export { countBytes, rangeOf, scanBytes, slopes, surveyVectors, voteRow } from './pictures'
export { countAtLeast, countTexels, extendSheet, layTriangles, listMeeting, takeTexels } from './raster'
export { heapBegin } from './memory'
