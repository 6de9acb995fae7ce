import type { Finding, Level } from '@stern-gate/contract'

const gravity: Record<Level, number> = { stop: 0, caution: 1, note: 2 }

/** Rules whose finding about a name has the same cause as one of names/pattern about it. */
const SPEAK_FOR_PATTERN = ['names/meaningless', 'names/characters']

/**
 * One cause speaks once: a name that says nothing, or that holds letters which do not work everywhere, or a
 * texture that nothing tells the role of, does not fit its pattern either – by the same cause, and with the same
 * new name. That finding is held back, and the one that stays says so. What is graver is never held back.
 */
export function speakOnce(findings: readonly Finding[]): Finding[] {
  const speaking = new Map<string, Finding>()
  for (const finding of findings) {
    const key = thingOf(finding)
    if (key !== null && !speaking.has(key)) speaking.set(key, finding)
  }
  if (speaking.size === 0) return [...findings]
  const adding = new Set<Finding>()
  const kept = findings.filter((finding) => {
    if (finding.rule !== 'names/pattern' || finding.place.kind !== 'name') return true
    const { what, name } = finding.place,
      speaks = speaking.get(`${what} ${name}`)
    if (!speaks || gravity[speaks.level] > gravity[finding.level]) return true
    adding.add(speaks)
    return false
  })
  return kept.map((f) =>
    adding.has(f) ? { ...f, text: `${f.text} It does not fit the pattern either.` } : f,
  )
}

/** What a finding that may speak for others is about; null for all others. */
function thingOf({ rule, place }: Finding): string | null {
  if (place.kind === 'name' && SPEAK_FOR_PATTERN.includes(rule)) return `${place.what} ${place.name}`
  if (place.kind === 'texture' && rule === 'names/role-known') return `texture ${place.texture}`
  return null
}
