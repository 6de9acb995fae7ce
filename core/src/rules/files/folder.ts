import * as z from 'zod'
import { isSafeFolder } from '../../read/deliveryPath'
import type { Subject } from '../../subject/subject'
import { defineRule, type RawFinding } from '../defineRule'

const folderOption = (what: string) =>
  z
    .string()
    .max(200)
    .refine(
      (t) => isSafeFolder(t.replace(/\{(family|name|class)\}/g, 'x')),
      'a folder is plain parts with / between, and {family}, {name} and {class}',
    )
    .default('')
    .describe(`folder for ${what}; {family}, {name} and {class} are filled in; empty: anywhere`)

export const folder = defineRule({
  id: 'files/folder',
  station: 'files',
  meta: {
    title: 'Files stand in the folder of their kind',
    why:
      'Builds, scripts and people look for models and textures by folder; what stands elsewhere is ' +
      'packed twice or not at all.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['paths of the files', 'names of asset, family and class'],
  },
  options: z.strictObject({ mesh: folderOption('meshes'), textures: folderOption('textures') }),
  messages: { elsewhere: 'Stands in {folder}; {what} belong into {wanted}.' },
  labels: { place: 'Put the files into their folders' },
  judge(subject, { mesh, textures }) {
    const wanted = { mesh: fill(mesh, subject), texture: fill(textures, subject) }
    const findings: RawFinding<'elsewhere', 'place'>[] = []
    for (const { path, part } of subject.files) {
      if (part === 'buffer' || part === 'surface' || wanted[part] === '' || folderOf(path) === wanted[part])
        continue
      findings.push({
        message: 'elsewhere',
        data: {
          folder: folderOf(path) || 'no folder',
          what: part === 'mesh' ? 'meshes' : 'textures',
          wanted: wanted[part],
        },
        place: { kind: 'file', file: path },
        remedies: [
          { remedy: 'files/place', options: { mesh: wanted.mesh, textures: wanted.texture }, label: 'place' },
        ],
      })
    }
    return findings
  },
})

const folderOf = (path: string): string => path.slice(0, Math.max(0, path.lastIndexOf('/')))

const fill = (template: string, { name, className, naming }: Subject): string =>
  template === ''
    ? ''
    : template
        .replace(/\{(family|name|class)\}/g, (_, key: string) =>
          key === 'name' ? name : key === 'class' ? className : naming.family,
        )
        .replace(/^\/+|\/+$/g, '')
