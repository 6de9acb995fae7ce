import type { EncodedFormat, Rulebook, TextureRole } from '@stern-gate/contract'
import type { MeasuredFile } from '../assembly/assembleAssets'
import { storedFormat } from './storedFormat'
import type { Subject, SubjectTexture } from './subject'
import { usedMask } from './usedMask'

/** A texture whose loss in the format of its target is asked for, and is kept under the key. */
export interface WantedError {
  /** Path of its file; null: it stands inside the mesh. */
  path: string | null
  /** Hash of its bytes. */
  sha256: string
  format: EncodedFormat
  role: TextureRole | null
  /** Packed cells of the islands that use it; null: all of it counts. */
  cells: string[] | null
  key: string
}

/**
 * What is asked of a texture where its target has losses measured; null where nothing is. The key says all that the
 * answer depends on: format, role, content and the part of it that islands use.
 */
export function wantedError(
  { target, mesh }: Pick<Subject, 'target' | 'mesh'>,
  texture: Pick<SubjectTexture, 'path' | 'facts' | 'role' | 'uses' | 'sha256'>,
): WantedError | null {
  const { role, path, sha256 } = texture
  if (!target.measuresError || sha256 === null) return null
  const format = storedFormat({ target }, texture)
  if (format === null) return null
  const mask = usedMask(mesh, texture.uses, sha256)
  return {
    path,
    sha256,
    format,
    role,
    cells: mask?.cells ?? null,
    key: [format, role ?? 'unknown', mask?.key ?? sha256].join('|'),
  }
}

/** Whether any target has losses measured: where none does, nobody need look for what is missing. */
export const hasLossesMeasured = ({ targets }: Pick<Rulebook, 'targets'>): boolean =>
  Object.values(targets).some((t) => t.measuresError)

/** Path of the file that a texture is kept with: its own, or that of the mesh that it stands in. */
export const holderOf = (
  { path, sha256 }: Pick<WantedError, 'path' | 'sha256'>,
  files: readonly MeasuredFile[],
): string | undefined => path ?? files.find((f) => f.embedded[sha256] !== undefined)?.path

/** What was not measured yet of an asset. */
export const missingErrors = (subject: Subject): WantedError[] =>
  subject.textures.flatMap((texture) => {
    const wanted = texture.asStored ? null : wantedError(subject, texture)
    return wanted ? [wanted] : []
  })
