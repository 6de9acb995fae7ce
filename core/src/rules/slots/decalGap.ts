import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

/** A gap below this is none: what lies in a face to the precision of its numbers. */
const IN_IT = 1e-5

export const decalGap = defineRule({
  id: 'slots/decal-gap',
  station: 'slots',
  meta: {
    title: 'A decal lies a little off the surface under it',
    why: 'In the surface, or too near to it, it flickers as the eye moves; too far off it throws a shadow and shows its edge.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['gaps between slots that are not opaque and what lies under them, 1, 50 and 99 %'],
  },
  options: z.strictObject({
    least: z.number().min(0).max(1).default(0.0005).describe('metres that a decal keeps at least'),
    most: z.number().min(0).max(1).default(0.01).describe('metres that it may lie off at most'),
    gap: z.number().min(0).max(1).default(0.002).describe('metres that the remedy gives it'),
    over: z
      .number()
      .min(0.5)
      .max(1)
      .default(0.9)
      .describe('share of a slot that has to lie over another surface for it to be taken for a decal'),
    classes: z.array(z.string()).default(['decal']).describe('classes whose slots are decals'),
  }),
  messages: {
    within: 'Decal {slot} lies in the surface under it: it will flicker.',
    near: 'Decal {slot} comes as near as {least|m} to the surface under it; {wanted|m} keep it from flickering.',
    sunk: 'Decal {slot} lies up to {depth|m} below the surface that it belongs on.',
    far: 'Decal {slot} stands up to {most|m} off the surface under it; {wanted|m} are tolerated.',
    unjudged: {
      level: 'note',
      text: 'The gap of decal {slot} is not judged: {why}.',
    },
  },
  labels: { lift: 'Put it {gap|m} off the surface' },
  judge(subject, { least, most, gap, over, classes }) {
    const findings: RawFinding<'within' | 'near' | 'sunk' | 'far' | 'unjudged', 'lift'>[] = []
    const isClass = classes.includes(subject.className)
    const slots = subject.mesh?.slots ?? []
    const isClear = (slot: string): boolean =>
      slots.some((s) => s.name === slot && s.extensions.includes('KHR_materials_transmission'))
    const measured = new Map((subject.mesh?.decals ?? []).map((d) => [d.slot, d]))
    for (const slot of subject.slotShares.keys()) {
      const d = measured.get(slot),
        place = { kind: 'slot' as const, slot }
      if (!d || d.over < over || isClear(slot)) {
        // Elsewhere a slot that is opaque, or lies over nothing, is no decal
        const why = d ? 'no surface lies under it in its files' : 'it is opaque, or part of too large a scene'
        if (isClass) findings.push({ message: 'unjudged', data: { slot, why }, place })
        continue
      }
      const wrong = faultOf(d, least, most)
      if (!wrong) continue
      findings.push({
        ...wrong,
        place,
        gauge: {
          value: wrong.message === 'far' ? d.most : d.least,
          unit: 'm',
          min: least,
          max: most,
          scale: 'linear',
        },
        remedies: [{ remedy: 'slots/lift-decal', options: { slot: d.slot, gap }, label: 'lift' }],
        measure: wrong.message === 'far' ? d.most : -d.least,
      })
    }
    return findings
  },
})

type Gaps = { slot: string; least: number; middle: number; most: number }

type Wrong = Pick<RawFinding<'within' | 'near' | 'sunk' | 'far'>, 'message' | 'data'>

function faultOf({ slot, least, middle, most }: Gaps, wanted: number, tolerated: number): Wrong | null {
  if (Math.abs(middle) < IN_IT) return { message: 'within', data: { slot } }
  if (least < -IN_IT) return { message: 'sunk', data: { slot, depth: -least } }
  if (least < wanted) return { message: 'near', data: { slot, least, wanted } }
  return most > tolerated ? { message: 'far', data: { slot, most, wanted: tolerated } } : null
}
