import type { PatternKind } from '@stern-gate/contract'
import { meshPart } from '../scene/meshParts'
import { matchName } from '../rulebook/pattern'
import { patternOf } from '../rulebook/patternCache'
import { wordsOfName } from '../rulebook/nameWords'
import { proposeName } from '../rulebook/proposeName'
import { NO_SLOT_NAME } from '../scene/slotNames'
import type { NamedThing, Subject } from './subject'

/** Gives a proposal for one name after the other, none twice and none that is taken in the project. */
export function nameProposals(subject: Subject): (thing: NamedThing) => string | null {
  // Made when the first proposal is asked for: most names are right
  let known: { own: Set<string>; words: string | null } | null = null
  const given = new Map<string, string | null>()
  const { naming } = subject
  return (thing) => {
    // Asked twice for one thing it gives the same answer
    const key = `${thing.what} ${thing.full}`,
      before = given.get(key)
    if (before !== undefined) return before
    const { own, words } = (known ??= {
      own: new Set(subject.things.map((n) => n.name)),
      words: subjectWords(subject),
    })
    const to = proposeName(thing.kind, thing.name, {
      rulebook: subject.rulebook,
      family: subject.naming.family,
      subject: words,
      role: thing.role,
      taken: { has: (name) => own.has(name) || naming.taken.has(name) || naming.offered.has(name) },
    })
    if (to) own.add(to)
    given.set(key, to)
    return to
  }
}

/** The offer to rename a thing, where there is a proposal. */
export const renameOffer = (
  thing: NamedThing,
  to: string | null,
): { remedy: string; options: { what: string; from: string; to: string }; label: 'rename' }[] =>
  to ? [{ remedy: 'names/rename', options: { what: thing.what, from: thing.full, to }, label: 'rename' }] : []

/** What the things of each pattern are called. */
export const patternWords: Record<PatternKind, string> = {
  mesh: 'mesh',
  lod: 'level',
  collision: 'collision mesh',
  texture: 'texture',
  slot: 'slot',
  clip: 'clip',
}

/**
 * Everything of an asset that a pattern names. Parts of level 0 may be called what they are; what is marked
 * as a level or a hull must be marked well.
 */
export function namedThings({
  name,
  kind,
  parts,
  textures,
  mesh,
}: Pick<Subject, 'name' | 'kind' | 'parts' | 'textures' | 'mesh'>): NamedThing[] {
  const things: NamedThing[] = []
  if (kind === 'mesh') things.push(named('mesh', 'asset', name))
  const marked = new Set<string>()
  for (const node of parts.all) {
    const part = meshPart(node.name)
    if (part.kind === 'level' && part.level === 0 && !/lod/i.test(node.name)) continue
    if (marked.has(node.name)) continue
    marked.add(node.name)
    things.push(named(part.kind === 'collision' ? 'collision' : 'lod', 'node', node.name))
  }
  for (const texture of textures)
    things.push({
      kind: 'texture',
      what: 'texture',
      name: texture.stem,
      full: texture.name,
      role: texture.roleFrom === 'input' ? texture.role : null,
      words: texture.words,
    })
  const slots = new Set(mesh?.slots?.map((s) => s.name))
  for (const { name } of mesh?.slots ?? []) things.push(named('slot', 'slot', nameInFile(name, slots), name))
  for (const clip of mesh?.file.clips ?? []) things.push(named('clip', 'clip', clip.name))
  return things
}

/** A slot's name as the file has it: without the number that tells it from others of that name; empty for none. */
function nameInFile(name: string, all: ReadonlySet<string>): string {
  const numbered = /^(.+)#\d+$/.exec(name),
    own = numbered && all.has(numbered[1]!) ? numbered[1]! : name
  return own === NO_SLOT_NAME ? '' : own
}

const named = (kind: PatternKind, what: NamedThing['what'], name: string, full = name): NamedThing => ({
  kind,
  what,
  name,
  full,
  role: null,
  words: wordsOfName(name),
})

/** Subject part of the asset's name, when that name fits. */
function subjectWords(subject: Subject): string | null {
  const compiled = patternOf(subject.rulebook.patterns.mesh)
  if (!compiled.ok) return null
  const match = matchName(compiled.value, subject.name)
  if (match.fits) return match.parts['subject'] ?? null
  const proposal = proposeName('mesh', subject.name, {
    rulebook: subject.rulebook,
    family: subject.naming.family,
    subject: null,
    role: null,
    taken: new Set(),
  })
  const parts = proposal ? matchName(compiled.value, proposal) : match
  return parts.fits ? (parts.parts['subject'] ?? null) : null
}
