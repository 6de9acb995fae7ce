import { bad } from '@stern-gate/contract'
import { findFiles, findAmong, hashFile, type Engine } from '@stern-gate/engine'
import { filesBeside } from './measureForRules'
import { CannotRun, faultText, type ExitCode, type Surroundings } from './surroundings'

/** Prints what is measured in one file, as JSON; a refused file gives its fault and exit 1. */
export async function facts(engine: Engine, around: Surroundings, path: string): Promise<ExitCode> {
  const {
    found: [file],
  } = await findFiles([path], around.cwd)
  if (!file)
    throw new CannotRun(
      bad('file/not-found', `There is no file ${path}.`, 'Check the path.', { file: path }).fault,
    )
  const beside = (await filesBeside([file], around.cwd)).filter((b) => b.file !== file.file)
  const { measured } = await engine.measure(
    {
      path: file.path,
      file: file.file,
      sha256: await hashFile(file.file, file.sizeBytes),
      sizeBytes: file.sizeBytes,
    },
    findAmong(beside),
  )
  if (measured.fault) {
    around.err(faultText(measured.fault))
    return 1
  }
  around.out(
    `${JSON.stringify({ path: measured.path, sha256: measured.sha256, kind: measured.kind, facts: measured.facts, embedded: measured.embedded }, null, 2)}\n`,
  )
  return 0
}
