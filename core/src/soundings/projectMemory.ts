import {
  counts,
  optionsOfOffer,
  type Finding,
  type MemorySaving,
  type ProjectMemory,
  type Target,
  type TextureRole,
} from '@stern-gate/contract'
import { flat } from '../rules/colour/flat'
import { emptyResolution } from '../rules/compression/emptyResolution'
import { largestSide } from '../rules/compression/largestSide'
import type { Rule } from '../rules/defineRule'
import type { Subject, SubjectTexture } from '../subject/subject'
import { memoryAtTarget } from '../subject/targetSizes'

/** Assets that are named, and savings that are offered. */
const NAMED = 200,
  OFFERED = 10

type Saving = Omit<MemorySaving, 'asset' | 'name'>

/** Adds up the texture memory of a library at one target, an asset at a time. */
export function memoryAt(targetName: string, target: Target) {
  const seen = new Set<string>(),
    roles = new Map<TextureRole | null, number>()
  const assets: ProjectMemory['assets'] = [],
    savings: MemorySaving[] = []
  let bytes = 0,
    shared = 0
  return {
    /** `findings` are those of savingRules on the subject at this target. */
    add(
      id: string,
      subject: Pick<Subject, 'name' | 'className' | 'textures' | 'rulebook'>,
      findings: readonly Finding[],
    ): void {
      const at = { target, rulebook: subject.rulebook }
      let own = 0
      const counted = new Map<string, { texture: SubjectTexture; size: number }>()
      for (const texture of subject.textures) {
        if (!texture.facts || texture.sha256 === null) continue
        const size = memoryAtTarget(at, texture)
        if (seen.has(texture.sha256)) {
          shared += size
          continue
        }
        seen.add(texture.sha256)
        own += size
        roles.set(texture.role, (roles.get(texture.role) ?? 0) + size)
        counted.set(texture.name, { texture, size })
      }
      for (const saving of savingsOf(findings, counted, at).values())
        savings.push({ asset: id, name: subject.name, ...saving })
      bytes += own
      if (own > 0) assets.push({ asset: id, name: subject.name, class: subject.className, bytes: own })
    },
    sum(): ProjectMemory {
      const largest = [...assets].sort((a, b) => b.bytes - a.bytes || (a.name < b.name ? -1 : 1)),
        rest = largest.slice(NAMED)
      return {
        target: targetName,
        title: target.title,
        limit: target.textureMemoryMiB.project * 1024 * 1024,
        bytes,
        textures: seen.size,
        shared,
        assets: largest.slice(0, NAMED),
        rest: { assets: rest.length, bytes: rest.reduce((sum, a) => sum + a.bytes, 0) },
        roles: [...roles].map(([role, size]) => ({ role, bytes: size })).sort((a, b) => b.bytes - a.bytes),
        savings: savings.sort((a, b) => b.saves - a.saves || (a.name < b.name ? -1 : 1)).slice(0, OFFERED),
      }
    },
  }
}

/** Rules whose first offer makes a texture smaller, and why it can be. */
const reasons: Readonly<Record<string, MemorySaving['why']>> = {
  [flat.id]: 'flat',
  [emptyResolution.id]: 'empty',
  [largestSide.id]: 'side',
}
export const savingRules: readonly Rule[] = [flat, emptyResolution, largestSide] as Rule[]

/** What the first offers of findings would save, by the name of the texture; the most of each. */
function savingsOf(
  findings: readonly Finding[],
  textures: ReadonlyMap<string, { texture: SubjectTexture; size: number }>,
  at: Pick<Subject, 'target' | 'rulebook'>,
): Map<string, Saving> {
  const best = new Map<string, Saving>()
  for (const { rule, remedies } of findings.filter(counts))
    for (const options of remedies[0] ? optionsOfOffer(remedies[0]) : []) {
      const known = textures.get(String(options['texture'])),
        why = reasons[rule]
      if (!known || !why) continue
      const width = Number(options['width'] ?? options['side']),
        height = Number(options['height'] ?? options['side'])
      const facts = known.texture.facts!,
        after = { ...facts, header: { ...facts.header, width, height } }
      const saves = known.size - memoryAtTarget(at, { ...known.texture, facts: after })
      if (saves > (best.get(known.texture.name)?.saves ?? 0))
        best.set(known.texture.name, {
          texture: known.texture.name,
          saves,
          why,
          rule,
          remedy: remedies[0]!.remedy,
          options,
          width,
          height,
        })
    }
  return best
}
