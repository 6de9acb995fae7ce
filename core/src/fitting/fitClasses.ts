import {
  pivotKinds,
  type AssetClass,
  type PivotKind,
  type Proposal,
  type Rulebook,
  type TextureRole,
} from '@stern-gate/contract'
import { nameWords } from '../rulebook/nameWords'
import { formatNumber } from '../numbers/formatNumber'
import { LEAST_FIT } from './fitNames'
import type { FitSample } from './fitSample'
import { counted } from './nameParts'
import { figureAbove, figureBelow, nearestPowerOfTwo, quantile } from './roundFigures'

/** Of fewer assets no class is made. */
const LEAST_ASSETS = 4
/** The caution admits this share of them, the stop all. */
const ADMITTED = 0.95
/** So many have a thing before it is asked of the others. */
const EXPECTED = 0.9

type Mesh = NonNullable<FitSample['mesh']>
type Member = FitSample & { mesh: Mesh }

/** Classes by folder, or by the first word where folders tell nothing; with limits from what is there. */
export function fitClasses(samples: readonly FitSample[], rulebook: Rulebook): Proposal[] {
  const meshes = samples.filter((s): s is Member => s.mesh !== null)
  return groupsOf(meshes)
    .filter(({ members }) => members.length >= LEAST_ASSETS)
    .map((group) => classProposal(group, rulebook))
    .sort((a, b) => (a.id < b.id ? -1 : 1))
}

interface Group {
  key: string
  by: 'folder' | 'word'
  members: Member[]
}

/** Folders, where there are several; else the first words that several names begin with. */
function groupsOf(meshes: readonly Member[]): Group[] {
  const folders = counted(meshes.flatMap((m) => m.folder ?? []))
  if (folders.length > 1)
    return folders.map(([key]) => ({ key, by: 'folder', members: meshes.filter((m) => m.folder === key) }))
  const first = (m: Member): string => nameWords(m.name)[0] ?? ''
  const words = counted(meshes.map(first)).filter(([word, n]) => word.length > 1 && n >= LEAST_ASSETS)
  if (words.length > 1)
    return words.map(([key]) => ({ key, by: 'word', members: meshes.filter((m) => first(m) === key) }))
  const [only] = folders
  return only ? [{ key: only[0], by: 'folder', members: meshes.filter((m) => m.folder === only[0]) }] : []
}

function classProposal({ key, by, members }: Group, rulebook: Rulebook): Proposal {
  const named = key.toLowerCase(),
    known = Object.entries(rulebook.classes).find(
      ([name, c]) => name === named || (by === 'folder' ? c.folders : c.words).includes(named),
    ),
    base = known?.[1] ?? rulebook.classes[rulebook.defaultClass]!
  const fitted = fittedClass(members, base, known ? null : { key: named, by })
  const outside = members.filter((m) => !isWithin(m.mesh, fitted))
  const words = (c: AssetClass): string =>
    [
      `${formatNumber(c.longestSide.min)} to ${formatNumber(c.longestSide.max)} m`,
      `${formatNumber(c.triangles.caution)} / ${formatNumber(c.triangles.stop)} triangles`,
      `${c.slots} ${c.slots === 1 ? 'slot' : 'slots'}`,
      `${c.texelsPerMetre} texels per metre`,
      c.lodsAbove === null ? 'no LODs asked for' : `LODs above ${formatNumber(c.lodsAbove)} triangles`,
      c.collision ? 'with collision' : 'no collision asked for',
      ...(c.lightmap ? ['with a lightmap channel'] : []),
    ].join(' · ')
  const id = known?.[0] ?? named
  return {
    id: `classes.${id}`,
    topic: 'classes',
    title: known
      ? `Class ${known[1].title}, as the library has it`
      : `A class for ${by === 'folder' ? 'folder' : 'names that begin with'} ${key}`,
    now: known ? words(known[1]) : `${rulebook.classes[rulebook.defaultClass]!.title}, by default`,
    then: words(fitted),
    change: [{ path: ['classes', id], value: fitted }],
    fits: members.length - outside.length,
    of: members.length,
    misfits: outside.map((m) => m.name).slice(0, 200),
    note: null,
    groups: [],
  }
}

function fittedClass(
  members: readonly Member[],
  base: AssetClass,
  made: { key: string; by: 'folder' | 'word' } | null,
): AssetClass {
  const all = members.map((m) => m.mesh),
    share = (of: (m: Mesh) => boolean): number => all.filter(of).length / all.length
  const sizes = all.map((m) => m.longestSide).filter((s) => s > 0),
    triangles = all.map((m) => Math.max(1, m.triangles)),
    densities = all.flatMap((m) =>
      m.texelsPerMetre !== null && m.texelsPerMetre > 0 ? [m.texelsPerMetre] : [],
    )
  const caution = figureAbove(quantile(triangles, ADMITTED)),
    // A stop at the same place would leave no room for a caution
    stop = Math.max(figureAbove(Math.max(...triangles)), figureAbove(caution * 1.2))
  return {
    ...base,
    ...(made
      ? {
          title: made.key.charAt(0).toUpperCase() + made.key.slice(1),
          folders: made.by === 'folder' ? [made.key] : [],
          words: made.by === 'word' ? [made.key] : [],
        }
      : {}),
    longestSide:
      sizes.length === 0
        ? base.longestSide
        : { min: figureBelow(Math.min(...sizes)), max: figureAbove(Math.max(...sizes)) },
    triangles: { caution: Math.ceil(caution), stop: Math.ceil(stop) },
    slots: Math.max(
      1,
      quantile(
        all.map((m) => m.slots),
        ADMITTED,
      ),
    ),
    texelsPerMetre:
      densities.length === 0 ? base.texelsPerMetre : nearestPowerOfTwo(quantile(densities, 0.5)),
    pivots: pivotsOf(all),
    inputs: (['basecolor', 'normal', 'orm'] as TextureRole[]).filter(
      (role) => share((m) => m.inputs.includes(role)) >= EXPECTED,
    ),
    lodsAbove: lodsAbove(all),
    collision: share((m) => m.collision) >= LEAST_FIT,
    lightmap: share((m) => m.lightmap) >= LEAST_FIT,
    repeat: share((m) => m.repeats) > 1 - LEAST_FIT || base.repeat,
    mirroredUvs: share((m) => m.mirrored) > 0.5 ? 'allowed' : base.mirroredUvs,
  }
}

/** As few kinds of pivot as nearly all have one of; anywhere where that takes more than there are. */
function pivotsOf(all: readonly Mesh[]): PivotKind[] {
  const chosen: PivotKind[] = []
  let open = all
  for (const _ of pivotKinds) {
    if (open.length <= all.length * (1 - EXPECTED)) return chosen
    const [best] = counted(open.flatMap((m) => m.pivots))
    if (!best) break
    chosen.push(best[0] as PivotKind)
    open = open.filter((m) => !m.pivots.includes(best[0] as PivotKind))
  }
  return chosen.length > 0 && open.length <= all.length * (1 - EXPECTED) ? chosen : ['any']
}

/** Triangles above which nearly all have levels; null where hardly any has. */
function lodsAbove(all: readonly Mesh[]): number | null {
  const withLevels = all.filter((m) => m.levels > 1)
  if (withLevels.length < all.length * (1 - LEAST_FIT)) return null
  const least = Math.min(...withLevels.map((m) => m.triangles)),
    limit = least > 1 ? figureBelow(least - 1) : 0
  const above = all.filter((m) => m.triangles > limit)
  return above.filter((m) => m.levels > 1).length >= above.length * EXPECTED ? Math.floor(limit) : null
}

/** Whether a mesh gives no finding by what the class expects of sizes and counts. */
const isWithin = (m: Mesh, c: AssetClass): boolean =>
  m.longestSide >= c.longestSide.min &&
  m.longestSide <= c.longestSide.max &&
  m.triangles <= c.triangles.caution &&
  m.slots <= c.slots
