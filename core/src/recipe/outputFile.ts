import type { FilePart } from '@stern-gate/contract'

/** A file that a recipe made. */
export interface OutputFile {
  path: string
  part: FilePart
  bytes: Uint8Array
}
