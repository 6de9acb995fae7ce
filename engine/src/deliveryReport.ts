import {
  counts,
  type AssetReport,
  type EncodingPlan,
  type Fault,
  type PackagedAsset,
  type Report,
  type Rulebook,
  type Verdict,
  type Waiver,
} from '@stern-gate/contract'
import {
  assembleAssets,
  buildSubject,
  carryOver,
  commonFamily,
  encodingPlanFor,
  judge,
  offeredNames,
  packagedLevels,
  refusedFiles,
  rules,
  sharedFindings,
  targetPass,
  usedMask,
  type AssetDraft,
  type MeasuredFile,
  type PassStep,
  type Subject,
  workingFilesBeside,
} from '@stern-gate/core'

export interface ReportOptions {
  rulebook: Rulebook
  target: string
  classChoice: string | null
  version: string
  /** Findings that were accepted, and the day that decides which of them have ended. */
  waivers?: readonly Waiver[]
  today?: string
  /** What was refused before any file was measured. */
  refused?: readonly Fault[]
  /** Files that were not looked at. */
  notRead?: readonly string[]
}

/** The assets of a delivery, each as the rules see it. Names that were offered to one are not offered to the next. */
export function* subjectsOf(
  measured: readonly MeasuredFile[],
  drafts: readonly AssetDraft[],
  options: Pick<ReportOptions, 'rulebook' | 'target' | 'classChoice'>,
  offered: ReadonlySet<string>,
): Generator<{ draft: AssetDraft; subject: Subject }> {
  const taken = new Set(drafts.map((d) => d.name)),
    family = commonFamily(drafts.map((d) => d.name)),
    byPath = new Map(measured.map((m) => [m.path, m]))
  for (const draft of drafts)
    yield {
      draft,
      subject: buildSubject(
        draft,
        draft.files.map((f) => byPath.get(f.path)!),
        {
          rulebook: options.rulebook,
          targetName: options.target,
          classChoice: options.classChoice,
          taken,
          offered,
          family,
        },
      ),
    }
}

/** A texture that the target stores otherwise than it came. */
export interface WantedEncoding {
  /** Path of its file; null: it stands inside the mesh. */
  path: string | null
  name: string
  plan: EncodingPlan
  /** Packed cells of the islands that use it; null: not known, or nearly all. */
  cells: string[] | null
}

/** How an asset goes out to its target. */
export interface SendingPlan {
  draft: AssetDraft
  /** Steps that make its sizes and conventions; none where the target takes what there is. */
  pass: PassStep[]
  encodings: WantedEncoding[]
  /** What the manifest says of its levels. */
  levels: PackagedAsset['levels']
}

/** What is done with each asset as it goes out to the target, by the path of the asset's main file. */
export function sendingPlans(
  measured: readonly MeasuredFile[],
  options: Pick<ReportOptions, 'rulebook' | 'target' | 'classChoice'>,
): Map<string, SendingPlan> {
  const plans = new Map<string, SendingPlan>()
  const drafts = assembleAssets(measured, options.rulebook)
  for (const { draft, subject } of subjectsOf(measured, drafts, options, new Set()))
    plans.set(draft.files[0]!.path, {
      draft,
      pass: targetPass(subject),
      levels: packagedLevels(subject),
      encodings: subject.textures.flatMap((texture) => {
        const plan = encodingPlanFor(subject, texture)
        if (!plan) return []
        const cells = usedMask(subject.mesh, texture.uses, texture.sha256)?.cells ?? null
        return [{ path: texture.path, name: texture.name, plan, cells }]
      }),
    })
  return plans
}

/** Judges measured files as one delivery; no two assets are offered one name. */
export function report(measured: readonly MeasuredFile[], options: ReportOptions): Report {
  const drafts = assembleAssets(measured, options.rulebook)
  const offered = new Set<string>()
  const assets: AssetReport[] = []
  for (const { draft, subject } of subjectsOf(measured, drafts, options, offered)) {
    const { findings, tally, verdict } = judge(subject, rules, {
      asset: draft.main,
      today: options.today ?? new Date().toISOString().slice(0, 10),
      waivers: options.waivers ?? [],
    })
    for (const name of offeredNames(findings)) offered.add(name)
    assets.push({
      name: draft.name,
      kind: draft.kind,
      class: subject.className,
      carryOver: carryOver(subject.mesh?.slots ?? [], subject.target),
      classFrom: subject.classFrom,
      files: draft.files.map((f) => f.path),
      verdict,
      tally,
      findings,
    })
  }
  const notRead = [...(options.notRead ?? [])].sort()
  const setAside = [
    ...drafts.flatMap((d) => d.aside ?? []),
    ...workingFilesBeside(
      notRead,
      drafts.filter((d) => d.kind === 'mesh'),
    ),
  ].sort((a, b) => (a.path < b.path ? -1 : 1))
  const refused: Fault[] = [...(options.refused ?? []), ...refusedFiles(measured)]
  const all = assets.flatMap((a) => a.findings)
  const count = (level: string) => all.filter((f) => f.level === level && counts(f)).length
  const held = assets.filter((a) => a.verdict === 'held').length
  const verdict: Verdict = held > 0 || refused.length > 0 ? 'held' : 'clear'
  return {
    format: 'stern-gate-report/1',
    version: options.version,
    rulebook: options.rulebook.name,
    target: options.target,
    verdict,
    totals: {
      assets: assets.length,
      held,
      stops: count('stop'),
      cautions: count('caution'),
      notes: count('note'),
      refused: refused.length,
      waived: all.filter((f) => !counts(f)).length,
    },
    assets,
    shared: sharedFindings(assets.map((a) => ({ id: a.files[0]!, kind: a.kind, findings: a.findings }))),
    refused,
    setAside,
    notRead: notRead.filter((path) => !setAside.some((s) => s.path === path)),
  }
}
