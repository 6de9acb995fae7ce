import type { SceneChanges } from '@stern-gate/contract'

/** What a later export of a scene has and has not, in a few words each. */
export const sceneChangeWords = (changes: SceneChanges | null): string[] =>
  changes === null
    ? []
    : [
        ...(changes.fresh.length > 0 ? [`new: ${changes.fresh.join(', ')}`] : []),
        ...(changes.gone.length > 0 ? [`gone: ${changes.gone.join(', ')}`] : []),
        ...changes.renamed.map((r) => `${r.from} is now ${r.to}, and stays ${r.name}`),
      ]
