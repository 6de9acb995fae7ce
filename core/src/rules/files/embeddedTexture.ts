import * as z from 'zod'
import { defineRule } from '../defineRule'

export const embeddedTexture = defineRule({
  id: 'files/embedded-texture',
  station: 'files',
  meta: {
    title: 'Textures are files of their own',
    why: 'A texture inside a mesh file cannot be shared, compressed by its role or replaced without exporting the mesh again.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['pictures inside the mesh file'],
  },
  options: z.strictObject({}),
  messages: {
    inside: 'Stands inside the mesh file, {bytes} KB.',
  },
  labels: { out: 'Take it out' },
  judge: (subject) =>
    subject.textures
      .filter((t) => t.embedded && t.facts)
      .map((t) => ({
        message: 'inside' as const,
        data: { bytes: Math.ceil(t.facts!.header.sizeBytes / 1000) },
        place: { kind: 'texture' as const, texture: t.name },
        remedies: [{ remedy: 'files/take-out', options: { texture: t.name }, label: 'out' as const }],
      })),
})
