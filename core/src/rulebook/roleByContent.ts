import type { ContentFacts, TextureFacts, TextureRole } from '@stern-gate/contract'

/** What the pixels of a texture say that it carries. */
export interface RoleByContent {
  /** Null: undecided. */
  role: TextureRole | null
  /** Of each role that is possible at all, the greatest first; they add up to less than 1. */
  probabilities: { role: TextureRole; probability: number }[]
  /** In words what spoke for the first of them; empty where nothing did. */
  reason: string
}

/** Below this the first role is not decided. */
const LEAST_SURE = 0.6
/** What weighs against all roles together: something that none of them describes. */
const SOMETHING_ELSE = 0.08

/** From 0 up to `from` straight to 1 at `to`. */
const above = (value: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (value - from) / (to - from)))
const below = (value: number, from: number, to: number): number => 1 - above(value, from, to)

/**
 * Tells from measured features what a texture carries. Each role is described by a few things that hold of it;
 * how well each holds is multiplied, and the products are brought to probabilities. Grey maps of one kind can
 * look like another – a two-valued one may be a mask of metal or of holes –, and then nothing is decided.
 */
export function roleByContent(facts: Pick<TextureFacts, 'content' | 'normal'>): RoleByContent {
  const { content, normal } = facts
  if (!content || content.mean.length === 0) return nothing
  // One value says nothing of what it is the value of
  if (content.deviation.every((d) => d < FLAT)) return nothing
  const isNormal = normal?.isNormalMap ?? 0
  const isGrey = content.grey >= GREY || content.mean.length < 3
  const likely: Likely = {
    normal: isNormal,
    ...(isGrey ? ofGrey(content) : ofColours(content, 1 - isNormal)),
  }
  const sum = Object.values(likely).reduce((a, b) => a + b, SOMETHING_ELSE)
  const probabilities = (Object.keys(likely) as TextureRole[])
    .map((role) => ({ role, probability: likely[role]! / sum }))
    .filter((p) => p.probability > 0.01)
    .sort((a, b) => b.probability - a.probability)
  const first = probabilities[0]
  if (!first) return nothing
  return {
    role: first.probability >= LEAST_SURE ? first.role : null,
    probabilities,
    reason: reasons[first.role],
  }
}

const nothing: RoleByContent = { role: null, probabilities: [], reason: '' }
const FLAT = 0.004
const GREY = 0.97

type Likely = Partial<Record<TextureRole, number>>

function ofColours(c: ContentFacts, rest: number): Likely {
  const [r = 0, g = 0, b = 0] = c.extreme,
    ends = (r + g + b) / 3,
    together = Math.max(...c.correlation),
    apartMost = Math.min(...c.correlation)
  const oneHue = c.correlation.every((k) => k > 0.6) || c.deviation.filter((d) => d > 0.01).length <= 1
  return {
    basecolor:
      rest *
      above(c.colourful, 0.008, 0.025) *
      below(ends, 0.35, 0.7) *
      above(together, 0.1, 0.4) *
      below(c.low, 0.3, 0.6),
    orm:
      rest *
      above(c.mean[0]!, 0.55, 0.7) *
      above(b, 0.5, 0.75) *
      below(g, 0.3, 0.6) *
      below(Math.abs(c.correlation[0]!), 0.6, 0.9) *
      below(c.low, 0.05, 0.3),
    emissive: rest * above(c.low, 0.3, 0.55) * (oneHue ? 1 : above(c.low, 0.7, 0.9)),
    tint:
      rest *
      above(Math.min(r, g, b), 0.6, 0.8) *
      below(together, 0.1, 0.4) *
      above(-apartMost, 0.02, 0.2) *
      above(c.colourful, 0.2, 0.4) *
      below(c.low, 0.6, 0.85),
  }
}

function ofGrey(c: ContentFacts): Likely {
  const mean = c.mean[0]!,
    deviation = c.deviation[0]!,
    ends = c.extreme[0]!
  const twoValued = above(ends, 0.45, 0.75) * above(deviation, 0.15, 0.25)
  return {
    metallic: twoValued * below(c.apart, 0.07, 0.13) * above(c.bend, 1.35, 1.6),
    opacity: twoValued * above(c.apart, 0.06, 0.12),
    occlusion:
      (1 - twoValued) * above(mean, 0.6, 0.75) * below(deviation, 0.11, 0.17) * below(c.low, 0.02, 0.1),
    roughness:
      above(mean, 0.15, 0.3) *
      below(mean, 0.7, 0.85) *
      below(deviation, 0.09, 0.15) *
      above(c.bend, 0.95, 1.15) *
      below(ends, 0.1, 0.3),
    height:
      (1 - twoValued) *
      below(c.bend, 1.1, 1.35) *
      above(deviation, 0.06, 0.1) *
      below(mean, 0.72, 0.86) *
      below(c.apart, 0.05, 0.1),
  }
}

/** In words what speaks for a role, where pixels do. */
export const reasonOfContent = (role: TextureRole): string => reasons[role]

const reasons: Record<TextureRole, string> = {
  normal: 'its texels are unit vectors that point out of the sheet',
  basecolor: 'it is coloured, its channels go along with each other, and few values stand at an end',
  orm: 'red is bright, blue stands at its ends, and the channels go their own ways',
  emissive: 'most of it is black, and the rest is of one hue',
  tint: 'each channel is either full or empty, and where one is full the others are empty',
  metallic: 'it is either black or white, in large patches',
  opacity: 'it is either black or white, with many edges',
  occlusion: 'it is bright, with soft shade',
  roughness: 'it is grainy and of middling brightness, and nothing stands at an end',
  height: 'it rises and falls smoothly over a wide range',
}
