import type { Rule } from './defineRule'
import { normalGreen } from './colour/normalGreen'
import { space } from './colour/space'
import { missing as collisionMissing } from './collision/missing'
import { size } from './compression/size'
import { missingReference } from './files/missingReference'
import { readable } from './files/readable'
import { missing as lodsMissing } from './lods/missing'
import { degenerate } from './mesh/degenerate'
import { triangleBudget } from './mesh/triangleBudget'
import { pattern } from './names/pattern'
import { expectedSize } from './scale/expectedSize'
import { pivot } from './scale/pivot'
import { missingInput } from './slots/missingInput'
import { missing as uvsMissing } from './uvs/missing'

const list = [
  normalGreen, space, collisionMissing, size, missingReference, readable, lodsMissing, degenerate, triangleBudget, pattern, expectedSize, pivot, missingInput, uvsMissing,
] as unknown as Rule[]

/** All rules, sorted by id. */
export const rules: readonly Rule[] = [...list].sort((a, b) => (a.id < b.id ? -1 : 1))
