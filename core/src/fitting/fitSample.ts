import type { AssetClass, ClassFrom, PatternKind, PivotKind, TextureRole } from '@stern-gate/contract'
import { pivotKinds } from '@stern-gate/contract'
import { longestSide } from '../geometry/pointBounds'
import { nearestPivot } from '../geometry/pivotPoints'
import type { Subject, SubjectTexture } from '../subject/subject'
import { trianglesOf } from '../subject/drawnPrimitives'
import { axes } from '../rules/scale/axes'
import { packedOrder } from '../rulebook/packedOrder'
import { wantedSpace } from '../subject/wantedSpace'

/** What fitting looks at of one texture. */
export interface FitTexture {
  stem: string
  words: readonly string[]
  /** Role that its name tells; null: none. */
  named: TextureRole | null
  /** Role by the input that it feeds, else by its pixels; null: undecided. */
  measured: TextureRole | null
  green: 'up' | 'down' | null
  /** Order of packed channels that its pixels look like; null: undecided, or it is no packed map. */
  order: string | null
  /** Whether its file's colour tag says what it should; null: it has none, or nothing is known. */
  tagRight: boolean | null
}

/** What fitting looks at of one asset. */
export interface FitSample {
  name: string
  /** Nearest folder; null: none. */
  folder: string | null
  className: string
  classFrom: ClassFrom
  names: readonly { kind: PatternKind; name: string }[]
  textures: readonly FitTexture[]
  /** Null for a texture set, and for a mesh that draws nothing. */
  mesh: {
    /** What wrote its file. */
    generator: string
    /** Size range of its class, metres; null where the class is only guessed. */
    expected: { min: number; max: number } | null
    /** The axis that is up where it seems to lie on its side (see scale/axes); null: it stands, or shows no side. */
    up: string | null
    /** Metres. */
    longestSide: number
    triangles: number
    slots: number
    /** Middle of the slots'; null: no textures. */
    texelsPerMetre: number | null
    levels: number
    collision: boolean
    lightmap: boolean
    repeats: boolean
    mirrored: boolean
    pivots: readonly PivotKind[]
    inputs: readonly TextureRole[]
  } | null
}

/** Green is told where the two ways differ clearly. */
const SURE_OF_GREEN = 0.6
const PIVOT_SHARE = 0.02

/** The same of one subject. */
export const sampleOf = (subject: Subject): FitSample => ({
  name: subject.name,
  folder: /([^/]+)\/[^/]*$/.exec(subject.path)?.[1] ?? null,
  className: subject.className,
  classFrom: subject.classFrom,
  names: subject.things.map(({ kind, name }) => ({ kind, name })),
  textures: subject.textures.filter((t) => t.facts !== null).map((t) => textureSample(t, subject)),
  mesh: meshSample(subject),
})

function textureSample(texture: SubjectTexture, subject: Subject): FitTexture {
  const { facts } = texture,
    wanted = wantedSpace(texture, subject),
    stated = facts!.header.colourSpace,
    green = facts!.normal?.green
  const known = (wanted === 'srgb' || wanted === 'linear') && (stated === 'srgb' || stated === 'linear')
  return {
    stem: texture.stem,
    words: texture.words.all,
    named: texture.roleFrom === 'name' ? texture.role : null,
    measured: texture.roleFrom === 'input' ? texture.role : (texture.content?.role ?? null),
    green:
      (facts!.normal?.isNormalMap ?? 0) > 0.5 && green && green.confidence >= SURE_OF_GREEN
        ? green.direction === 'up' || green.direction === 'down'
          ? green.direction
          : null
        : null,
    order: orderOf(texture, subject),
    tagRight: known && !texture.embedded ? stated === wanted : null,
  }
}

function upOf(subject: Subject): string | null {
  const [lies] = axes.judge(subject, axes.options.parse({}))
  return lies?.message === 'side' ? String(lies.data['up']) : null
}

/** So sure an order of channels has to be. */
const SURE_OF_ORDER = 0.95

function orderOf({ facts, role, uses }: SubjectTexture, { rulebook }: Subject): string | null {
  const isPacked = uses.some((u) => u.input === 'orm') || role === 'orm' || uses.length === 0
  if (!isPacked || !facts?.content) return null
  const looks = packedOrder(facts.content, true, rulebook.layouts)
  return looks && looks.probability >= SURE_OF_ORDER ? looks.order : null
}

function meshSample(subject: Subject): FitSample['mesh'] {
  const { bounds, parts, mesh } = subject
  if (!bounds || !mesh) return null
  const size = longestSide(bounds)
  const drawn = subject.primitives.drawn.filter((d) => d.level === 0)
  const channels = drawn.flatMap((d) => d.primitive.uvChannels)
  return {
    generator: mesh.file.generator,
    expected: subject.classFrom === 'default' ? null : subject.class.longestSide,
    up: upOf(subject),
    longestSide: size,
    triangles: trianglesOf(parts.finest),
    slots: subject.slotShares.size,
    texelsPerMetre: densityOf(subject),
    levels: parts.levels.size,
    collision: parts.collision.length > 0,
    lightmap: channels.some((c) => c.channel === 1 && c.outside === 0),
    repeats: channels.some((c) => c.channel === 0 && c.outside > 0),
    mirrored: channels.some((c) => c.channel === 0 && c.mirrored > 0),
    pivots: pivotKinds.filter(
      (kind) => kind !== 'any' && nearestPivot(bounds, kind).distance <= Math.max(0.001, size * PIVOT_SHARE),
    ),
    inputs: inputsOf(subject),
  }
}

/** Texels per metre in the middle of the slots that have a base colour. */
function densityOf({ primitives, textures }: Subject): number | null {
  const found: number[] = []
  for (const { primitive, level } of primitives.drawn) {
    if (level !== 0 || primitive.slot === null) continue
    const texture = textures.find((t) =>
      t.uses.some((u) => u.slot === primitive.slot && u.input === 'basecolor'),
    )
    const density = primitive.uvChannels.find((c) => c.channel === 0)?.density
    if (!texture?.facts || !density) continue
    const { width, height } = texture.facts.header
    found.push(density.middle * Math.sqrt(width * height))
  }
  found.sort((a, b) => a - b)
  return found[Math.floor(found.length / 2)] ?? null
}

/** Roles that every slot in use has a texture for. */
function inputsOf({ textures, slotShares }: Subject): AssetClass['inputs'] {
  const used = [...slotShares.keys()]
  const roles = new Set(textures.flatMap((t) => (t.role ? [t.role] : [])))
  return [...roles].filter((role) =>
    used.every((slot) => textures.some((t) => t.role === role && t.uses.some((u) => u.slot === slot))),
  )
}
