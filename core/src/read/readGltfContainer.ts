import { bad, cutText, good, validText, type Outcome } from '@stern-gate/contract'
import type { GltfContainer } from './gltfContainer'
import { gltfSchema, type GltfJson } from './gltfSchema'
import { jsonTrouble } from './jsonTrouble'
import { checkGltfStructure } from './checkGltfStructure'

const GLB_MAGIC = 0x46546c67
const CHUNK_JSON = 0x4e4f534a
const CHUNK_BIN = 0x004e4942

/**
 * Opens glTF text or GLB bytes and checks the structure; no geometry is read.
 * Faults: gltf/truncated, gltf/bad-json, gltf/bad-structure, gltf/unsupported-version, gltf/out-of-bounds,
 * gltf/too-large.
 */
export function readGltfContainer(bytes: Uint8Array): Outcome<GltfContainer> {
  const parts = isGlb(bytes) ? splitGlb(bytes) : good({ format: 'gltf' as const, text: bytes, binary: null })
  if (!parts.ok) return parts
  const json = parseJson(parts.value.text)
  if (!json.ok) return json
  const container: GltfContainer = {
    format: parts.value.format,
    origin: null,
    json: json.value,
    binary: parts.value.binary,
  }
  const checked = checkGltfStructure(container)
  return checked.ok ? good(container) : checked
}

const isGlb = (bytes: Uint8Array): boolean =>
  bytes.length >= 4 && viewOf(bytes).getUint32(0, true) === GLB_MAGIC

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

interface GlbParts {
  format: 'gltf' | 'glb'
  text: Uint8Array
  binary: Uint8Array | null
}

function splitGlb(bytes: Uint8Array): Outcome<GlbParts> {
  const view = viewOf(bytes)
  const truncated = (why: string, offset: number) =>
    bad('gltf/truncated', why, 'Export the file again, or copy it once more: the transfer broke off.', {
      offset,
    })
  if (bytes.length < 20)
    return truncated(
      `The file ends after ${bytes.length} bytes; a GLB header and chunk need 20.`,
      bytes.length,
    )
  const version = view.getUint32(4, true)
  if (version !== 2)
    return bad(
      'gltf/unsupported-version',
      `The container is version ${version}; only 2 is read.`,
      'Export as glTF 2.0.',
      { offset: 4 },
    )
  const claimed = view.getUint32(8, true)
  if (claimed > bytes.length)
    return truncated(`The header claims ${claimed} bytes, the file has ${bytes.length}.`, bytes.length)
  let text: Uint8Array | null = null,
    binary: Uint8Array | null = null
  for (let at = 12; at + 8 <= claimed;) {
    const length = view.getUint32(at, true),
      type = view.getUint32(at + 4, true)
    if (at + 8 + length > claimed)
      return truncated(`A chunk of ${length} bytes starts at ${at} and runs past the end.`, at)
    const chunk = bytes.subarray(at + 8, at + 8 + length)
    if (type === CHUNK_JSON) text ??= chunk
    else if (type === CHUNK_BIN) binary ??= chunk
    at += 8 + length + ((4 - (length % 4)) % 4)
  }
  if (!text)
    return bad('gltf/bad-structure', 'The GLB has no JSON chunk.', 'Export the file again.', { offset: 12 })
  return good({ format: 'glb', text, binary })
}

const isByName = (list: unknown): boolean => typeof list === 'object' && list !== null && !Array.isArray(list)

/** Only as escapes can a text in UTF-8 hold NUL or halves of characters. */
const INVALID = /\\u(0000|d[89a-f])/i
const onlyValid = (part: unknown): unknown => (typeof part === 'string' ? validText(part) : part)

function decodeUtf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return null
  }
}

function parseJson(text: Uint8Array): Outcome<GltfJson> {
  const decoded = decodeUtf8(text)
  if (decoded === null)
    return bad('gltf/bad-json', 'The JSON is not written in UTF-8.', 'Export the file again.')
  let raw: unknown
  try {
    raw = JSON.parse(decoded, INVALID.test(decoded) ? (_, part) => onlyValid(part) : undefined)
  } catch (error) {
    return bad(
      'gltf/bad-json',
      `The JSON cannot be parsed: ${jsonTrouble(decoded, error)}.`,
      'Export the file again; if it was edited by hand, look at the named place.',
    )
  }
  const asset = (raw as { asset?: { version?: unknown } } | null)?.asset
  if (asset && typeof asset.version === 'string' && !/^2\./.test(asset.version))
    return bad(
      'gltf/unsupported-version',
      `The file says glTF ${cutText(asset.version, 16, '…')}; only 2.x is read.`,
      'Export as glTF 2.0.',
      { part: 'asset.version' },
    )
  // The first version had objects by name where the second has lists
  if (isByName((raw as { meshes?: unknown } | null)?.meshes) && isByName((raw as { nodes?: unknown }).nodes))
    return bad('gltf/unsupported-version', 'The file is glTF 1.0; only 2.x is read.', 'Export as glTF 2.0.')
  const parsed = gltfSchema.safeParse(raw)
  if (parsed.success) return good(parsed.data)
  const issue = parsed.error.issues[0]!
  const place = issue.path.join('.') || 'the whole'
  return bad(
    'gltf/bad-structure',
    `${place}: ${issue.message}.`,
    'The exporter wrote something that glTF 2.0 does not allow; export again or with another exporter.',
    { part: place },
  )
}
