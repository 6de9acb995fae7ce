import type { MeshFormat, UpAxis } from '@stern-gate/contract'
import type { GltfJson } from './gltfSchema'

/** What a file of another format says of itself, where glTF has no word for it. */
export interface MeshOrigin {
  unitMetres: number | null
  upAxis: UpAxis | null
  /** Faces as the file has them; null: not kept. */
  polygons: number | null
  lost: readonly string[]
  companions: readonly { uri: string; sizeBytes: number | null }[]
}

/**
 * A glTF file opened but not yet read: its JSON after the door and the binary chunk of a GLB. Other formats
 * are translated into one.
 */
export interface GltfContainer {
  format: MeshFormat
  /** Null for glTF itself. */
  origin: MeshOrigin | null
  json: GltfJson
  binary: Uint8Array | null
}
