import type { EncodedFormat, Rulebook, TextureRole } from '@stern-gate/contract'
import { storedFormat } from './storedFormat'
import type { Subject, SubjectTexture } from './subject'
import { usedMask } from './usedMask'

/** A texture whose loss in the format of its target is asked for, and is kept under the key. */
export interface WantedError {
  path: string
  format: EncodedFormat
  role: TextureRole | null
  /** Packed cells of the islands that use it; null: all of it counts. */
  cells: string[] | null
  key: string
}

/**
 * What is asked of a texture in a file of its own, where its target has losses measured; null where nothing is. The
 * key says all that the answer depends on: format, role and the part that islands use. The content is that of the file.
 */
export function wantedError(
  { target, mesh }: Pick<Subject, 'target' | 'mesh'>,
  texture: Pick<SubjectTexture, 'path' | 'facts' | 'role' | 'uses' | 'sha256'>,
): WantedError | null {
  if (!target.measuresError || texture.path === null) return null
  const { role } = texture,
    format = storedFormat({ target }, texture)
  if (format === null) return null
  const mask = usedMask(mesh, texture.uses, texture.sha256)
  return {
    path: texture.path,
    format,
    role,
    cells: mask?.cells ?? null,
    key: [format, role ?? 'unknown', mask?.key ?? 'whole'].join('|'),
  }
}

/** Whether any target has losses measured: where none does, nobody need look for what is missing. */
export const hasLossesMeasured = ({ targets }: Pick<Rulebook, 'targets'>): boolean =>
  Object.values(targets).some((t) => t.measuresError)

/** What was not measured yet of an asset. */
export const missingErrors = (subject: Subject): WantedError[] =>
  subject.textures.flatMap((texture) => {
    const wanted = texture.asStored ? null : wantedError(subject, texture)
    return wanted ? [wanted] : []
  })
