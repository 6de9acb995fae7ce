import type { StandardFacts } from '@stern-gate/contract'

/** So many issues are counted; a broken exporter can write one for each vertex. */
const MOST_ISSUES = 50_000
/** Severity of an error, as the validator numbers them. */
const ERROR = 0

interface Report {
  issues: { messages: { code: string; severity: number; pointer?: string }[]; truncated: boolean }
}

/**
 * The errors that the open standard's validator (npm gltf-validator) finds in a glTF or GLB, by code in the order
 * of their names. `find` gives the bytes of a file that it refers to; one that did not come is no error here,
 * since another rule says so. Its own sentences are left out: the codes are the standard's.
 */
export async function validateStandard(
  bytes: Uint8Array,
  path: string,
  find: (asked: string) => Uint8Array | null,
): Promise<StandardFacts> {
  const { default: validator } = (await import('gltf-validator')) as unknown as {
    default: { validateBytes: (bytes: Uint8Array, options: object) => Promise<Report> }
  }
  const { issues } = await validator.validateBytes(bytes, {
    uri: path,
    maxIssues: MOST_ISSUES,
    writeTimestamp: false,
    externalResourceFunction: async (uri: string) => {
      const found = find(uri)
      if (!found) throw new Error('it did not come')
      return found
    },
  })
  const byCode = new Map<string, StandardFacts['errors'][number]>()
  for (const { code, severity, pointer = '' } of issues.messages) {
    if (severity !== ERROR || code === 'IO_ERROR') continue
    const known = byCode.get(code)
    if (known) known.count++
    else byCode.set(code, { code, count: 1, first: pointer })
  }
  return {
    errors: [...byCode.values()].sort((a, b) => (a.code < b.code ? -1 : 1)),
    all: !issues.truncated,
  }
}
