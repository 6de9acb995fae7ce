import * as z from 'zod'
import { fileStem } from '../../read/deliveryPath'
import { roleOfName } from '../../rulebook/textureRole'
import { defineRule, type RawFinding } from '../defineRule'
import type { Subject, SubjectReference } from '../subject'
import { likeness } from '../likeness'

export const missingReference = defineRule({
  id: 'files/missing-reference',
  station: 'files',
  meta: {
    title: 'Every file that a mesh asks for came with it',
    why: 'A texture that did not come leaves its slot blank in the game, and nobody can tell which file it was.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['references of the mesh', 'files of the delivery'],
  },
  options: z.strictObject({ alike: z.number().min(0).max(1).default(0.7).describe('likeness of names from which a texture that nobody uses is offered in place of a missing one') }),
  messages: {
    image: 'Asks for {asked}, which did not come. It feeds {inputs}.',
    similar: 'Asks for {asked}, which did not come. It feeds {inputs}; {texture}, which nothing uses, has a name that is {alike|%} alike.',
    unused: 'Asks for {asked}, which did not come. No slot uses it.',
    library: 'Asks for {asked}, which did not come. It holds the values and textures of its slots.',
    buffer: 'Asks for {asked}, which did not come. It holds the geometry: nothing else of this mesh can be checked.',
    stem: { level: 'caution', text: 'Asks for {asked}; {texture} was taken for it, which has another extension.' },
  },
  labels: { take: 'Take {texture}' },
  judge: (subject, { alike }) => subject.references.filter((r) => r.unsafe === null && (r.resolved === null || r.how === 'stem')).map((r): RawFinding<'image' | 'similar' | 'unused' | 'library' | 'buffer' | 'stem', 'take'> => {
    const place = { kind: 'file' as const, file: r.asked }, inputs = [...new Set(r.slots.map((s) => `${s.input} of ${s.slot}`))].join(', ')
    const offer = (texture: string) => [{ remedy: 'files/point-to', options: { asked: r.asked, texture }, label: 'take' as const }]
    if (r.how === 'stem') {
      const texture = subject.textures.find((t) => t.path === r.resolved)?.name ?? r.resolved!
      return { message: 'stem' as const, data: { asked: r.asked, texture }, place, remedies: offer(texture) }
    }
    if (r.kind !== 'image') return { message: r.kind, data: { asked: r.asked, inputs }, place }
    const like = r.slots.length > 0 ? mostAlike(subject, r, alike) : null
    if (like) return { message: 'similar' as const, data: { asked: r.asked, inputs, texture: like.name, alike: like.share }, place, remedies: offer(like.name) }
    return { message: r.slots.length > 0 ? ('image' as const) : ('unused' as const), data: { asked: r.asked, inputs }, place }
  }),
})

/** So much a name has to be ahead of the next one. */
const LEAD = 0.05

/** The texture that nobody uses whose name is most like the one that is asked for; it may not claim another role. */
function mostAlike(subject: Subject, reference: SubjectReference, least: number): { name: string; share: number } | null {
  const role = roleOfName(subject.rulebook, reference.asked), stem = fileStem(reference.asked)
  const found = subject.textures.filter((t) => t.uses.length === 0 && (role === null || t.role === null || t.role === role)).map((t) => ({ name: t.name, share: likeness(stem, fileStem(t.name)) })).sort((a, b) => b.share - a.share)
  const [best, next] = found
  return best && best.share >= least && best.share - (next?.share ?? 0) >= LEAD ? best : null
}
