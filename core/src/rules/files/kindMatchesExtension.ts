import { formatWords } from '@stern-gate/contract'
import * as z from 'zod'
import { kindByExtension } from '../../read/fileKind'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const kindMatchesExtension = defineRule({
  id: 'files/kind-matches-extension',
  station: 'files',
  meta: {
    title: 'A file is what its extension says',
    why: 'Programs that go by the extension refuse a picture under another name, or show it wrong.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['first bytes of every file', 'extension'],
  },
  options: z.strictObject({}),
  messages: {
    other: 'The name says {claimed}, the bytes are {kind}.',
  },
  labels: {},
  judge: (subject) =>
    findingsOf(subject.files, (file) => {
      const claimed = kindByExtension(file.path)
      if (claimed === file.kind || file.kind === 'unknown' || claimed === 'unknown' || file.kind === 'buffer')
        return null
      return {
        message: 'other' as const,
        data: { claimed: formatWords(claimed), kind: formatWords(file.kind) },
        place: { kind: 'file' as const, file: file.path },
      }
    }),
})
