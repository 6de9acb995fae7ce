import type { Remedy } from './defineRemedy'
import { dropDegenerate } from './dropDegenerate'
import { flipGreen } from './flipGreen'
import { movePivot } from './movePivot'
import { rename } from './rename'
import { rescale } from './rescale'
import { setSpace } from './setSpace'

/** All remedies, sorted by id. */
export const remedies: readonly Remedy[] = ([dropDegenerate, flipGreen, movePivot, rename, rescale, setSpace] as unknown as Remedy[]).sort((a, b) => (a.id < b.id ? -1 : 1))
