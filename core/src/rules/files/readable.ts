import * as z from 'zod'
import { formatWords, type Fault } from '@stern-gate/contract'
import { defineRule, type RawFinding } from '../defineRule'

export const readable = defineRule({
  id: 'files/readable',
  station: 'files',
  meta: {
    title: 'Every file can be read',
    why: 'A file that cannot be read, or not wholly, has not been checked: nothing may pass on the strength of it.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['refusals', 'parts that could not be measured'],
  },
  options: z.strictObject({}),
  messages: {
    refused: '{why} {hint}',
    notMeasured: 'The {measure} could not be measured: {why} {hint}',
    headerOnly: {
      level: 'note',
      text: 'Only its header was read: the texels of {format} files are not decoded yet, so what they show is not judged.',
    },
  },
  labels: {},
  judge(subject) {
    const findings: RawFinding<'refused' | 'notMeasured' | 'headerOnly'>[] = subject.refused.map((fault) =>
      about('refused', fault, fault.where.file ?? subject.path),
    )
    for (const texture of subject.textures) {
      if (texture.fault) findings.push(about('refused', texture.fault, texture.name))
      if (texture.facts && !texture.facts.header.decodes)
        findings.push({
          message: 'headerOnly',
          data: { format: formatWords(texture.facts.header.format) },
          place: { kind: 'file', file: texture.name },
        })
      for (const fault of texture.facts?.notMeasured ?? [])
        findings.push(about('notMeasured', fault, texture.name))
    }
    // A buffer that did not come is the business of files/missing-reference
    for (const fault of subject.mesh?.notMeasured ?? [])
      if (fault.code !== 'gltf/missing-buffer') findings.push(about('notMeasured', fault, subject.path))
    return findings
  },
})

const about = <M extends string>(message: M, fault: Fault, file: string): RawFinding<M> => ({
  message,
  data: { why: fault.why, hint: fault.hint, code: fault.code, measure: fault.where.measure ?? 'file' },
  place: { kind: 'file', file },
  part: fault.where.measure ?? fault.code,
})
