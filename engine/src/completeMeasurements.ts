import type { Rulebook } from '@stern-gate/contract'
import type { MeasuredFile } from '@stern-gate/core'
import type { Engine } from './createEngine'
import { measureStoredErrors } from './measureStoredErrors'
import { measureUsedParts } from './measureUsedParts'
import type { MeasuringAround } from './measuringAround'

/**
 * What rules ask of textures beyond a file by itself: figures over the part that islands use, and what the target's
 * formats lose, where it has that measured. What cannot be measured so stays as it is.
 */
export async function completeMeasurements(
  engine: Engine,
  files: readonly MeasuredFile[],
  settings: { rulebook: Rulebook; target: string; classChoice: string | null },
  around: MeasuringAround,
): Promise<MeasuredFile[]> {
  const used = await measureUsedParts(engine, files, settings.rulebook, around)
  return measureStoredErrors(engine, used, settings, around)
}
