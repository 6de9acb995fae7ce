import { Logger, VertexLayout, WebIO } from '@gltf-transform/core'
import { ALL_EXTENSIONS } from '@gltf-transform/extensions'
import { MeshoptDecoder } from 'meshoptimizer/decoder'

/** Needs a decoder that is not on board yet. */
const NOT_READ = new Set(['KHR_draco_mesh_compression'])

const extensions = ALL_EXTENSIONS.filter((e) => !NOT_READ.has(e.EXTENSION_NAME))

/** Names of the glTF extensions that are read and written. */
export const readExtensions: ReadonlySet<string> = new Set(extensions.map((e) => e.EXTENSION_NAME))

/** A reader and writer without file or network access: only its JSON-and-resources methods are used. */
export async function createGltfIo(): Promise<WebIO> {
  await MeshoptDecoder.ready
  return new WebIO()
    .setLogger(new Logger(Logger.Verbosity.SILENT))
    .setVertexLayout(VertexLayout.SEPARATE)
    .registerExtensions(extensions)
    .registerDependencies({ 'meshopt.decoder': MeshoptDecoder })
}
