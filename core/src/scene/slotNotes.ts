import type { Material } from '@gltf-transform/core'

/** Where notes of ours stand in the extras of a slot: what other programs write there under common words is theirs. */
const KEY = 'stern-gate'

/** What an output notes of a slot. */
export interface SlotNotes {
  /** Name of the surface of values that a step gave it. */
  surface?: string
  /** Textures of inputs that glTF has not, by role: their path from the mesh, or their name inside it. */
  inputs?: Readonly<Record<string, string>>
}

/** The notes of a slot; empty where there are none, or none that can be read. */
export function slotNotes(slot: Material): SlotNotes {
  const notes = slot.getExtras()[KEY]
  if (typeof notes !== 'object' || notes === null) return {}
  const { surface, inputs } = notes as Record<string, unknown>
  return {
    ...(typeof surface === 'string' ? { surface } : {}),
    ...(typeof inputs === 'object' && inputs !== null ? { inputs: textsOf(inputs) } : {}),
  }
}

const textsOf = (values: object): Record<string, string> =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => typeof value === 'string'))

/** Adds to the notes of a slot. */
export function noteOfSlot(slot: Material, notes: SlotNotes): void {
  slot.setExtras({ ...slot.getExtras(), [KEY]: { ...slotNotes(slot), ...notes } })
}
