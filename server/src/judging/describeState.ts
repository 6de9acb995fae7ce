import { counts, cutText, type AssetState, type FilePart, type NamedPart } from '@stern-gate/contract'
import {
  carryOver,
  compilePattern,
  matchName,
  partSpans,
  nameProposals,
  memoryAtTarget,
  trianglesOf,
  type Judgement,
  type MeasuredFile,
  type NamedThing,
  type Subject,
} from '@stern-gate/core'
import { mayBeValidated } from './validation'

export interface StateAddresses {
  model: string | null
  evidence: Record<string, string>
  files: { path: string; part: FilePart; sha256: string; sizeBytes: number }[]
}

/** One state of an asset as the bench shows it: with how it was judged. */
export function describeState(
  subject: Subject,
  { findings, tally, verdict }: Judgement,
  files: readonly MeasuredFile[],
  addresses: StateAddresses,
): AssetState {
  const propose = nameProposals(subject)
  return {
    name: subject.name,
    findings,
    tally,
    verdict,
    mesh: subject.mesh,
    textures: subject.textures.map((t) => ({
      name: t.name,
      path: t.path,
      embedded: t.embedded,
      sha256: t.sha256,
      role: t.role,
      roleFrom: t.roleFrom,
      tile: t.tile,
      uses: t.uses.map(({ slot, input, field, channel }) => ({ slot, input, field, channel })),
      content: t.content,
      facts: t.facts,
      asStored: t.asStored,
      fault: t.fault,
    })),
    standard: files
      .filter((f) => mayBeValidated(f))
      .map((f) => ({ file: f.path, facts: f.standard ?? null })),
    references: subject.references,
    tileSets: subject.tileSets,
    slotShares: Object.fromEntries(subject.slotShares),
    memory: Object.entries(subject.rulebook.targets).map(([id, target]) => ({
      target: id,
      title: target.title,
      bytes: subject.textures.reduce(
        (sum, t) => sum + memoryAtTarget({ target, rulebook: subject.rulebook }, t),
        0,
      ),
      limit: target.textureMemoryMiB.asset * 1024 * 1024,
    })),
    files: addresses.files.filter((f) => files.some((m) => m.path === f.path)),
    screen: { title: subject.target.title, ...subject.target.screen },
    levels: [...subject.parts.levels].map(([level, nodes]) => ({
      level,
      nodes: nodes.map((n) => n.path),
      triangles: trianglesOf(nodes),
    })),
    collision: subject.parts.collision.map((n) => n.path),
    names: subject.things.map((thing) => describeName(subject, thing, propose)),
    carryOver: carryOver(subject.mesh?.slots ?? [], subject.target),
    model: addresses.model,
    evidence: addresses.evidence,
  }
}

function describeName(
  subject: Subject,
  thing: NamedThing,
  propose: (thing: NamedThing) => string | null,
): AssetState['names'][number] {
  const source = subject.rulebook.patterns[thing.kind]
  const compiled = compilePattern(source)
  const match = compiled.ok
    ? matchName(compiled.value, thing.name)
    : { fits: false as const, from: 0, expected: '' }
  const spans = compiled.ok && match.fits ? partSpans(compiled.value, thing.name) : {}
  const span: [number, number] = match.fits ? [0, thing.name.length] : [match.from, thing.name.length]
  return {
    place: { kind: 'name', what: thing.what, name: thing.full, span },
    pattern: source,
    fits: match.fits,
    parts: match.fits
      ? Object.entries(match.parts).map(([part, text]) => ({
          part,
          text,
          from: spans[part]![0],
          to: spans[part]![1],
        }))
      : [],
    proposal: match.fits ? null : propose(thing),
  }
}

/** Everything in an asset that has a name, each once. */
export function namesOf(subject: Subject): NamedPart[] {
  const nodes = (subject.mesh?.nodes ?? []).map((n) => ({ what: 'node' as const, name: n.name }))
  const all: NamedPart[] = [
    { what: 'asset', name: subject.name },
    ...nodes,
    ...subject.things.map(({ what, full }) => ({ what, name: full })),
  ]
  return [...new Map(all.map((part) => [`${part.what} ${part.name}`, part])).values()]
}

/** What holds an asset, in one line: the gravest findings, at most two. */
export function headlineOf(findings: AssetState['findings']): string {
  const rank = { stop: 0, caution: 1, note: 2 }
  const texts = findings
    .filter(counts)
    .sort((a, b) => rank[a.level] - rank[b.level])
    .map((f) => f.text.split(/(?<=[.:])\s/)[0]!.replace(/[.:]$/, ''))
  return cutText([...new Set(texts)].slice(0, 2).join(' · '), 160, '…')
}
