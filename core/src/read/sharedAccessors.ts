import type { Document, JSONDocument, TypedArray } from '@gltf-transform/core'
import { componentBytes, components } from './checkGltfStructure'
import { DRACO } from './gltfIo'
import type { GltfJson } from './gltfSchema'

type Accessor = GltfJson['accessors'][number]

const arrays = {
  5120: Int8Array,
  5121: Uint8Array,
  5122: Int16Array,
  5123: Uint16Array,
  5125: Uint32Array,
  5126: Float32Array,
} as const

/**
 * A document to be read whose plain accessors come out empty, and what then lets them look into the file's
 * own bytes.
 */
export interface SharedAccessors {
  jsonDocument: JSONDocument
  share: (document: Document) => void
}

/**
 * Takes out the accessors that need no copy: whole numbers or floats side by side, at a place that a typed
 * array can begin at, in a view that is not compressed. Copying them would take as much memory as the file
 * once more. Whoever reads so must not write to them.
 */
export function sharedAccessors(jsonDocument: JSONDocument, key: string): SharedAccessors {
  const json = jsonDocument.json as unknown as GltfJson,
    looks = new Map<number, TypedArray>()
  // What the decoder puts in place of accessors is its own
  if (!json.extensionsUsed.includes(DRACO)) {
    json.accessors.forEach((accessor, i) => {
      const look = lookAt(accessor, json, (uri) => jsonDocument.resources[uri ?? key])
      if (look) looks.set(i, look)
    })
  }
  const accessors = json.accessors.map((accessor, i) =>
    looks.has(i) ? { ...accessor, bufferView: undefined, byteOffset: undefined } : accessor,
  )
  return {
    jsonDocument: { ...jsonDocument, json: { ...json, accessors } as unknown as JSONDocument['json'] },
    share(document) {
      const read = document.getRoot().listAccessors()
      for (const [i, look] of looks) read[i]!.setArray(look)
    },
  }
}

function lookAt(
  { bufferView, byteOffset, componentType, count, type, sparse }: Accessor,
  json: GltfJson,
  resource: (uri: string | undefined) => Uint8Array | undefined,
): TypedArray | null {
  const view = bufferView === undefined || sparse ? undefined : json.bufferViews[bufferView]
  if (!view || Object.keys(view.extensions ?? {}).length > 0) return null
  const size = componentBytes[componentType]!,
    numbers = components[type]! * count
  const bytes = resource(json.buffers[view.buffer]?.uri)
  if (!bytes || (view.byteStride !== undefined && view.byteStride !== components[type]! * size)) return null
  const from = (view.byteOffset ?? 0) + (byteOffset ?? 0)
  if ((bytes.byteOffset + from) % size !== 0 || from + numbers * size > bytes.length) return null
  return new arrays[componentType](bytes.buffer as ArrayBuffer, bytes.byteOffset + from, numbers)
}
