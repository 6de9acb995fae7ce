import { Logger, VertexLayout, WebIO } from '@gltf-transform/core'
import { ALL_EXTENSIONS } from '@gltf-transform/extensions'
import { MsftLod } from './lodExtension'
import { MeshoptDecoder } from 'meshoptimizer/decoder'

/** Meshes under this extension need a decoder that whoever runs the core brings along. */
export const DRACO = 'KHR_draco_mesh_compression'
/** Loads the module of draco3dgltf's decoder. */
export type LoadDraco = () => Promise<unknown>

const extensions = [...ALL_EXTENSIONS, MsftLod]

/** Names of the glTF extensions that are read and written. */
export const readExtensions: ReadonlySet<string> = new Set(extensions.map((e) => e.EXTENSION_NAME))

/** A reader and writer without file or network access: only its JSON-and-resources methods are used. */
export async function createGltfIo(
  draco: unknown = null,
  known: (extension: string) => boolean = () => true,
): Promise<WebIO> {
  await MeshoptDecoder.ready
  return new WebIO()
    .setLogger(new Logger(Logger.Verbosity.SILENT))
    .setVertexLayout(VertexLayout.SEPARATE)
    .registerExtensions(extensions.filter((e) => known(e.EXTENSION_NAME)))
    .registerDependencies({
      'meshopt.decoder': MeshoptDecoder,
      ...(draco ? { 'draco3d.decoder': draco } : {}),
    })
}
