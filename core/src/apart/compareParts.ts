import type { KeptPart, SceneChanges, ScenePart, ScenePlan } from '@stern-gate/contract'

/** What is kept of a part: enough to know it again. */
export const keptPart = (part: ScenePart, placements: KeptPart['placements']): KeptPart => ({
  key: part.key,
  name: part.name,
  left: part.left !== null,
  triangles: part.triangles,
  vertices: part.vertices,
  size: part.bounds
    ? (part.bounds.max.map((v, k) => Number((v - part.bounds!.min[k]!).toPrecision(5))) as KeptPart['size'])
    : [0, 0, 0],
  placements,
})

/** What a person chose for a part that has another node path now goes along with it. */
export interface ComparedParts {
  changes: SceneChanges
  plan: ScenePlan
}

/**
 * Compares the parts of a later export with those of the one before. A part that is gone and a new one of the same
 * counts and size are one that was renamed: it keeps its name, and what the plan says of it.
 */
export function compareParts(
  before: readonly KeptPart[],
  now: readonly ScenePart[],
  plan: ScenePlan,
): ComparedParts {
  const keys = new Set(now.map((p) => p.key)),
    known = new Set(before.map((p) => p.key))
  const gone = before.filter((p) => !keys.has(p.key))
  const fresh = now.filter((p) => !known.has(p.key))
  const renamed: SceneChanges['renamed'] = []
  const moved = new Map<string, string>()
  const taken = new Set<string>()
  for (const part of fresh) {
    const old = gone.filter((g) => !taken.has(g.key) && sameThing(g, part))
    // Several that fit are told as gone and new: which is which cannot be known
    if (old.length !== 1) continue
    taken.add(old[0]!.key)
    moved.set(old[0]!.key, part.key)
    renamed.push({ from: old[0]!.key, to: part.key, name: old[0]!.name })
  }
  const renamedTo = new Set(renamed.map((r) => r.to))
  return {
    changes: {
      fresh: fresh.filter((p) => !renamedTo.has(p.key)).map((p) => p.name),
      gone: gone.filter((p) => !taken.has(p.key)).map((p) => p.name),
      renamed,
    },
    plan: followed(plan, moved, renamed),
  }
}

function sameThing(old: KeptPart, part: ScenePart): boolean {
  const kept = keptPart(part, [])
  return (
    old.triangles === kept.triangles &&
    old.vertices === kept.vertices &&
    old.size.every((v, k) => Math.abs(v - kept.size[k]!) <= 1e-3 * Math.max(...old.size))
  )
}

function followed(
  plan: ScenePlan,
  moved: ReadonlyMap<string, string>,
  renamed: SceneChanges['renamed'],
): ScenePlan {
  if (moved.size === 0) return plan
  const now = (key: string): string => moved.get(key) ?? key
  return {
    ...plan,
    joined: plan.joined.map((keys) => keys.map(now)),
    split: plan.split.map(now),
    left: plan.left.map(now),
    kept: plan.kept.map(now),
    names: {
      ...Object.fromEntries(Object.entries(plan.names).map(([key, name]) => [now(key), name])),
      ...Object.fromEntries(renamed.map(({ to, name }) => [to, name])),
    },
  }
}
