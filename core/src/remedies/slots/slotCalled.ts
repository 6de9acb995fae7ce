import type { Material } from '@gltf-transform/core'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { slotNames } from '../../scene/slotNames'
import type { Work } from '../work'

/** The slot of this name; a fault where there is none. */
export function slotCalled(work: Work, name: string): Outcome<Material> {
  const slot = work.document ? [...slotNames(work.document)].find(([, own]) => own === name)?.[0] : undefined
  return slot
    ? good(slot)
    : bad('remedy/not-applicable', `No slot is called ${name}.`, 'Choose one of its slots.', { slot: name })
}
