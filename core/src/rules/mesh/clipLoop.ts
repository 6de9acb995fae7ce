import * as z from 'zod'
import { nameWords } from '../../rulebook/nameWords'
import { defineRule, type RawFinding } from '../defineRule'

export const clipLoop = defineRule({
  id: 'mesh/clip-loop',
  station: 'mesh',
  meta: {
    title: 'A clip that is played over and over ends as it begins',
    why: 'Otherwise everything jumps once in each round.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['first and last pose of every clip', 'its mark for looping', 'its name'],
  },
  options: z.strictObject({
    words: z
      .array(z.string())
      .default(['loop', 'idle', 'cycle', 'walk', 'run'])
      .describe('words in a name that tell a looping clip'),
    metres: z.number().min(0).default(0.002).describe('metres that a node may differ'),
    degrees: z.number().min(0).default(0.5).describe('degrees that a node may be turned'),
    share: z.number().min(0).default(0.01).describe('that scales and weights may differ'),
  }),
  messages: {
    open: 'Clip {clip} is to loop, and its last pose is {metres|m} and {degrees|deg} from its first.',
    unmarked: { level: 'note', text: 'Clip {clip} ends as it begins, and nothing marks it as looping.' },
  },
  labels: { mark: 'Mark it as looping', unmark: 'Mark it as played once' },
  judge(subject, { words, metres, degrees, share }) {
    const findings: RawFinding<'open' | 'unmarked', 'mark' | 'unmark'>[] = []
    for (const clip of subject.mesh?.file.clips ?? []) {
      const { difference: d, loop, name } = clip
      if (!d || clip.lengthSeconds <= 0) continue
      const closed = d.metres <= metres && d.degrees <= degrees && d.scale <= share && d.weight <= share
      const meant = loop ?? nameWords(name).some((word) => words.includes(word))
      const place = {
        kind: 'name' as const,
        what: 'clip' as const,
        name,
        span: [0, name.length] as [number, number],
      }
      if (meant && !closed)
        findings.push({
          message: 'open',
          data: { clip: name, metres: d.metres, degrees: d.degrees },
          place,
          measure: d.metres + d.degrees,
          remedies: [{ remedy: 'mesh/set-loop', options: { clip: name, loop: false }, label: 'unmark' }],
        })
      if (closed && loop === null)
        findings.push({
          message: 'unmarked',
          data: { clip: name },
          place,
          remedies: [{ remedy: 'mesh/set-loop', options: { clip: name, loop: true }, label: 'mark' }],
        })
    }
    return findings
  },
})
