import type { MoreReaders } from '@stern-gate/core'

let decoder: Promise<unknown> | undefined

/** Formats that are read by a library; it is loaded when the first such file comes. */
export const libraryReaders: MoreReaders & Required<Pick<MoreReaders, 'draco'>> = {
  translators: {
    fbx: async (bytes) => (await import('./translate/readFbx')).readFbx(bytes),
    dae: async (bytes) => (await import('./translate/readDae')).readDae(bytes),
  },
  draco: () => (decoder ??= import('draco3dgltf').then((m) => m.default.createDecoderModule({}))),
}
