// What the page needs of taking apart: proposing, without reading or writing files
export { firstWay, partsByPlan, proposeWays } from './proposeParts'
export type { SceneNodeFacts } from './sceneTree'
