import { bad, good, stepDataSchema, type Outcome, type Recipe, type StepData } from '@stern-gate/contract'
import type { RemedyPorts } from './defineRemedy'

/** Option by which a step names what it keeps outside its options. */
export const DATA = 'data'
const SHA256 = /^[0-9a-f]{64}$/

/** Hashes of what the steps of a recipe keep outside their options. */
export const dataOfRecipe = ({ steps }: Recipe): string[] => [
  ...new Set(
    steps.flatMap(({ options }) => {
      const data = options[DATA]
      return typeof data === 'string' && SHA256.test(data) ? [data] : []
    }),
  ),
]

/**
 * Reads what a step keeps outside its options, of the kind that it wants. Fault: remedy/data-missing, where it is not
 * there, is damaged, or is of another kind.
 */
export function readStepData<Kind extends StepData['kind']>(
  sha256: string,
  ports: RemedyPorts,
  kind: Kind,
): Outcome<Extract<StepData, { kind: Kind }>> {
  const bytes = ports.stepData(sha256)
  const read = bytes ? stepDataSchema.safeParse(parsed(bytes)) : null
  return read?.success && read.data.kind === kind
    ? good(read.data as Extract<StepData, { kind: Kind }>)
    : bad(
        'remedy/data-missing',
        bytes ? 'What this step works with is damaged.' : 'What this step works with is not there.',
        'Take the step out, or make it anew.',
        { part: sha256.slice(0, 12) },
      )
}

function parsed(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes)) as unknown
  } catch {
    return null
  }
}
