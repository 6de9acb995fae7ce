import type { SlotFacts } from '@stern-gate/contract'

/** Threshold of a cutout whose base colour a texture feeds; null: it feeds none. */
export const cutoffOf = (
  uses: readonly { slot: string; input: string }[],
  slots: readonly Pick<SlotFacts, 'name' | 'alphaMode' | 'alphaCutoff'>[],
): number | null =>
  slots.find(
    (slot) =>
      slot.alphaMode === 'cutout' && uses.some((u) => u.slot === slot.name && u.input === 'basecolor'),
  )?.alphaCutoff ?? null
