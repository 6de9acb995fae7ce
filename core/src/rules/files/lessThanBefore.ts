import * as z from 'zod'
import { carriedParts, type CarriedPart, type CarriedParts } from '../../subject/carriedParts'
import { defineRule } from '../defineRule'

export const lessThanBefore = defineRule({
  id: 'files/less-than-before',
  station: 'files',
  meta: {
    title: 'A new version carries what the one before carried',
    why: 'An export of the mesh alone takes clips, levels and collision out of the game without anybody having decided it.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['clips, levels, collision and skin', 'those of the version before'],
  },
  options: z.strictObject({}),
  messages: {
    less: 'Version {version} had {had}; this one has none of it. Deliver it, or accept that it is gone.',
    fewer: 'Version {version} had {had}; this one has fewer. Deliver them, or accept that they are gone.',
  },
  labels: {},
  judge(subject) {
    const before = subject.previous?.carried
    if (!before || !subject.mesh) return []
    const now = carriedParts(subject)
    return missing(before, now).map(({ part, had, all }) => ({
      message: all ? ('less' as const) : ('fewer' as const),
      data: { version: before.since?.[part] ?? subject.previous!.version, had, part },
      place: { kind: 'asset' as const },
      part,
      remedies: [],
    }))
  },
})

interface Missing {
  part: CarriedPart
  had: string
  all: boolean
}

const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`

/** What was there and is not now. A clip of another name is another clip. */
function missing(before: CarriedParts, now: CarriedParts): Missing[] {
  const gone = before.clips.filter((c) => !now.clips.includes(c))
  return [
    ...(gone.length > 0
      ? [
          {
            part: 'clips' as const,
            had: `${counted(gone.length, 'clip')} (${gone.slice(0, 4).join(', ')}${gone.length > 4 ? ' …' : ''})`,
            all: true,
          },
        ]
      : []),
    ...(before.levels > now.levels && before.levels > 1
      ? [{ part: 'levels' as const, had: `${before.levels} levels of detail`, all: now.levels < 2 }]
      : []),
    ...(before.collision > now.collision
      ? [
          {
            part: 'collision' as const,
            had: counted(before.collision, 'collision mesh', 'collision meshes'),
            all: now.collision === 0,
          },
        ]
      : []),
    ...(before.skinned && !now.skinned ? [{ part: 'skin' as const, had: 'a skin', all: true }] : []),
  ]
}
