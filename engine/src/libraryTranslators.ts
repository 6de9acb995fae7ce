import type { MoreTranslators } from '@stern-gate/core'

/** Formats that are read by a library; it is loaded when the first such file comes. */
export const libraryTranslators: MoreTranslators = {
  fbx: async (bytes) => (await import('./translate/readFbx')).readFbx(bytes),
  dae: async (bytes) => (await import('./translate/readDae')).readDae(bytes),
}
