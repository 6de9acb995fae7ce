import { bad, type Outcome, type Recipe, type RecipeStep, type StepResult } from '@stern-gate/contract'
import { canRewrite } from '../read/canRewrite'
import type { Subject, SubjectTexture } from '../subject/subject'
import { isResizedForTarget, sizeAtTarget } from '../subject/targetSizes'

/** The order in which glTF reads a packed map; of a pair of roughness and metallic red says nothing. */
function orderRead({ uses, role }: SubjectTexture): string | null {
  const inputs = new Set(uses.map((u) => u.input))
  return inputs.has('orm') ? 'orm' : inputs.has('metallic-roughness') ? 'xrm' : role === 'orm' ? 'orm' : null
}

/** A step of a target's pass: as in a recipe, by nobody. */
export type PassStep = Pick<RecipeStep, 'remedy' | 'options'>

/**
 * The target pass: what is done behind the recipe of an asset as it goes out to its target, and never in the asset
 * itself, so that one asset serves several receivers. Sizes of textures where the target has them made, and the
 * receiver's conventions: green, order of packed channels, gloss, the lightmap's channel, unit and axis, levels and hulls as files of their own. Unit
 * and axis come behind the textures, so that no step before them works in another unit. Empty where the target takes
 * what there is.
 */
export function targetPass(subject: Subject): PassStep[] {
  const steps = [
    ...subject.textures.flatMap((t) => textureSteps(subject, t)),
    ...lightmapSteps(subject),
    ...placeSteps(subject),
  ]
  return [...steps, ...fileSteps(subject, steps.length > 0)]
}

function textureSteps(subject: Subject, texture: SubjectTexture): PassStep[] {
  const { facts, role, name } = texture,
    { rulebook, target } = subject
  if (!facts || !canRewrite(facts.header)) return []
  const steps: PassStep[] = [],
    { green } = target.conventions
  if (isResizedForTarget(subject, texture)) {
    const { width, height } = sizeAtTarget(subject, texture)!
    steps.push({ remedy: 'compression/resize', options: { texture: name, width, height } })
  }
  if (role === 'normal' && green !== null && green !== rulebook.green && facts.header.channels >= 3)
    steps.push({ remedy: 'colour/flip-green', options: { texture: name } })
  return [...steps, ...roughnessSteps(subject, texture)]
}

/** The order of packed channels that the receiver reads, and gloss in place of roughness. */
function roughnessSteps({ target }: Subject, texture: SubjectTexture): PassStep[] {
  const { packed, gloss } = target.conventions,
    { name, facts, role } = texture
  const from = orderRead(texture)
  if (from !== null) {
    const to = packed ?? (gloss ? from.replace('r', 'g') : from)
    return to !== from && facts!.header.channels >= 3
      ? [{ remedy: 'colour/repack', options: { texture: name, from, to } }]
      : []
  }
  // What feeds no slot is roughness by its name or its file
  return gloss && role === 'roughness' && texture.uses.length === 0
    ? [{ remedy: 'colour/invert', options: { texture: name, channel: 'all', becomes: null } }]
    : []
}

/** UV channels change places where baked light is looked for in another one; slots go on reading what they read. */
function lightmapSteps({ kind, class: own, target }: Subject): PassStep[] {
  const { lightmapChannel: wanted } = target.conventions
  return kind === 'mesh' && own.lightmap && wanted !== null && wanted !== own.lightmapChannel
    ? [{ remedy: 'uvs/exchange', options: { a: own.lightmapChannel, b: wanted, follow: true } }]
    : []
}

function placeSteps({ kind, target }: Subject): PassStep[] {
  if (kind !== 'mesh') return []
  const steps: PassStep[] = [],
    { unitMetres, up } = target.conventions
  if (unitMetres !== null && unitMetres !== 1)
    steps.push({ remedy: 'scale/rescale', options: { factor: 1 / unitMetres } })
  // What looks down along −Z comes up where Y was, and Y comes where Z was
  if (up === '+Z') steps.push({ remedy: 'scale/turn-axes', options: { up: '-Z', front: '+Z', base: false } })
  return steps
}

/** Files that came apart stay so while no step joins them. */
function fileSteps({ files, parts, target }: Subject, areJoined: boolean): PassStep[] {
  const { levelFiles, hullFiles } = target.conventions
  const levels = levelFiles && parts.levels.size > 1,
    hulls = hullFiles && parts.collision.length > 0 && parts.finest.length > 0
  const cameApart = files.filter((f) => f.part === 'mesh').length > 1
  return (levels || hulls) && (areJoined || !cameApart)
    ? [{ remedy: 'files/own-files', options: { levels, hulls } }]
    : []
}

/** Ids of the steps of a pass begin so. */
const PASS = 'target-'

/** A recipe with the steps of a pass behind its own; `why`: the target that they are for. */
export const withPass = <R extends Recipe>(recipe: R, pass: readonly PassStep[], why: string): R => ({
  ...recipe,
  steps: [...recipe.steps, ...pass.map((step, i) => ({ ...step, id: `${PASS}${i}`, on: true, why }))],
})

/** The fault of a pass of which a step did nothing: what goes out would not be what the target asks. Null where all did. */
export function faultOfPass(results: readonly StepResult[]): Extract<Outcome<never>, { ok: false }> | null {
  const left = results.find(({ id, changed }) => id.startsWith(PASS) && !changed)
  return left
    ? bad(
        'remedy/not-applicable',
        `It could not be made for the target: ${left.said}.`,
        'Put it right in the recipe of the asset, or in its files.',
      )
    : null
}
