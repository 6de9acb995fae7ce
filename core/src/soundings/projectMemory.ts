import type { BlockFormatName, MemorySaving, ProjectMemory, Target, TextureRole } from '@stern-gate/contract'
import { textureMemory } from '../image/textureMemory'
import { emptyResolution } from '../rules/compression/emptyResolution'
import type { Subject, SubjectTexture } from '../subject/subject'

/** Assets that are named, and savings that are offered. */
const NAMED = 200,
  OFFERED = 10
/** Side of what a picture of one value shrinks to: a block. */
const BLOCK = 4
/** Texels a side up to which no picture is called empty, and dB from which on nothing differs: the rule's own. */
const { side: SMALL, decibels: SAME } = emptyResolution.options.parse({})

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
    add(id: string, subject: Pick<Subject, 'name' | 'className' | 'textures'>): void {
      let own = 0
      for (const texture of subject.textures) {
        if (!texture.facts || texture.sha256 === null) continue
        const size = textureMemory(texture.facts.header, formatOf(texture, target))
        if (seen.has(texture.sha256)) {
          shared += size
          continue
        }
        seen.add(texture.sha256)
        own += size
        roles.set(texture.role, (roles.get(texture.role) ?? 0) + size)
        const saving = bestSaving(texture, target, size)
        if (saving) savings.push({ asset: id, name: subject.name, ...saving })
      }
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

const formatOf = ({ role }: SubjectTexture, { formats }: Target): BlockFormatName =>
  formats[role ?? 'basecolor']

/** The step that saves most of one texture; null: none does. */
function bestSaving(texture: SubjectTexture, target: Target, size: number): Saving | null {
  const { facts, name } = texture
  // What is stored in blocks, or was not decoded, is not written anew
  if (!facts?.channels || facts.header.blockFormat !== null || !facts.header.decodes) return null
  const { width, height } = facts.header
  const found: Saving[] = []
  const offer = (
    why: Saving['why'],
    rule: string,
    step: { remedy: string; more: Saving['options'] },
    toWidth: number,
    toHeight: number,
  ): void => {
    const saves = size - textureMemory({ width: toWidth, height: toHeight }, formatOf(texture, target))
    if (saves > 0)
      found.push({
        texture: name,
        saves,
        why,
        rule,
        remedy: step.remedy,
        options: { texture: name, ...step.more },
        width: toWidth,
        height: toHeight,
      })
  }
  const resize = (w: number, h: number) => ({
    remedy: 'compression/resize',
    more: { width: w, height: h },
  })
  const isFlat = facts.channels.every((c) => c.max === c.min)
  if (isFlat && Math.max(width, height) > BLOCK)
    offer('flat', 'colour/flat', { remedy: 'colour/shrink', more: {} }, BLOCK, BLOCK)
  const times = facts.resolution?.times ?? 1
  // As the rule says it: small pictures and what differs by more are not called empty
  if (
    !isFlat &&
    times > 1 &&
    Math.max(width, height) > SMALL &&
    (facts.resolution!.psnr ?? Infinity) >= SAME
  ) {
    const [w, h] = [width, height].map((v) => Math.max(BLOCK, Math.round(v / times))) as [number, number]
    offer('empty', 'compression/empty-resolution', resize(w, h), w, h)
  }
  const largest = Math.max(width, height)
  if (largest > target.largestSide) {
    const [w, h] = [width, height].map((v) =>
      Math.max(1, Math.round((v * target.largestSide) / largest)),
    ) as [number, number]
    offer('side', 'compression/largest-side', resize(w, h), w, h)
  }
  return found.sort((a, b) => b.saves - a.saves)[0] ?? null
}
