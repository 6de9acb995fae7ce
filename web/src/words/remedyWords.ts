import type { RecipeStep } from '@stern-gate/contract'
import { formatCount } from '@stern-gate/core/numbers'

type Options = RecipeStep['options']
const text = (o: Options, key: string): string => String(o[key])

/** What a step does, in a few words, for its chip on the rope. */
const words: Record<string, (o: Options) => string> = {
  'files/intake': (o) => `Take in${o['unit'] === 'as read' ? '' : `: ${text(o, 'unit')}`}`,
  'files/drop-strays': () => 'Drop strays',
  'files/take-out': () => 'Take out texture',
  'names/rename': (o) => `Name → ${text(o, 'to')}`,
  'scale/rescale': (o) => `Scale by ${text(o, 'factor')}`,
  'scale/move-pivot': (o) => `Pivot to ${text(o, 'to').replace('-', ' ')}`,
  'scale/bake-transform': () => 'Bake transform',
  'scale/turn-axes': (o) => `Turn ${text(o, 'up')} up`,
  'mesh/drop-degenerate': () => 'Drop triangles without an area',
  'mesh/weld': () => 'Weld points',
  'mesh/reduce': (o) => `Reduce to ${formatCount(Number(o['triangles']))}`,
  'mesh/reorder': () => 'Reorder for the cache',
  'mesh/limit-influences': (o) => `At most ${text(o, 'most')} bones`,
  'mesh/drop-colours': (o) => `Drop colours ${text(o, 'set')}`,
  'mesh/drop-crumbs': () => 'Drop crumbs',
  'mesh/drop-duplicates': () => 'Drop doubled triangles',
  'mesh/set-loop': (o) => `${text(o, 'clip')}: ${o['loop'] ? 'loops' : 'once'}`,
  'slots/merge': (o) => `${text(o, 'slot')} → ${text(o, 'keep')}`,
  'mesh/turn-facing': () => 'Turn faces outward',
  'mesh/recompute-normals': (o) => `Normals, hard from ${text(o, 'angle')}°`,
  'mesh/generate-tangents': () => 'Compute tangents',
  'slots/set-alpha': (o) => `Alpha: ${text(o, 'mode')}`,
  'slots/reorder': () => 'Order slots',
  'slots/drop-unused': () => 'Drop unused slot',
  'colour/set-space': (o) => `Set ${o['space'] === 'srgb' ? 'sRGB' : 'linear'}`,
  'colour/flip-green': () => 'Turn green',
  'colour/mark-normal': () => 'Mark as normal map',
  'colour/renormalise': () => 'Make vectors unit long',
  'colour/invert': (o) => (o['channel'] === 'all' ? 'Invert' : `Invert ${text(o, 'channel')}`),
  'colour/specular-to-metal': () => 'Metallic and roughness',
  'colour/normal-from-height': () => 'Normal map from height',
  'colour/drop-alpha': () => 'Drop alpha',
  'colour/shrink': (o) => `Shrink to ${text(o, 'side')} × ${text(o, 'side')}`,
  'compression/resize': (o) => `Resize to ${text(o, 'width')} × ${text(o, 'height')}`,
  'uvs/swap': (o) => `Swap UV${text(o, 'a')} and UV${text(o, 'b')}`,
  'uvs/copy': (o) => `Copy UV${text(o, 'from')} to UV${text(o, 'to')}`,
  'uvs/remove': (o) => `Remove UV${text(o, 'channel')}`,
}

export const remedyWords = (step: Pick<RecipeStep, 'remedy' | 'options'>): string =>
  words[step.remedy]?.(step.options) ?? step.remedy
