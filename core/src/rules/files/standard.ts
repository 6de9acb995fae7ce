import * as z from 'zod'
import { defineRule } from '../defineRule'

export const standard = defineRule({
  id: 'files/standard',
  station: 'files',
  meta: {
    title: 'The file keeps to the open standard',
    why: 'What breaks the standard is shown by one program and refused by the next; exporters rarely say so.',
    level: 'note',
    kinds: ['mesh'],
    reads: ["errors of the open standard's validator, once it has looked at the file"],
  },
  options: z.strictObject({
    allowed: z.array(z.string()).default([]).describe('codes of the validator that are tolerated'),
  }),
  messages: {
    errors: '{count|n|place breaks|places break} the open standard ({code}); the first is {first}.',
  },
  labels: {},
  judge: (subject, { allowed }) =>
    subject.standard.flatMap(({ file, facts }) =>
      facts.errors
        .filter(({ code }) => !allowed.includes(code))
        .map(({ code, count, first }) => ({
          message: 'errors' as const,
          data: { code, count, first: first || 'the file as a whole' },
          place: { kind: 'file' as const, file },
          part: code,
          measure: count,
        })),
    ),
})
