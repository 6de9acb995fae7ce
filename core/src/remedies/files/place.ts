import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { fileName, isSafeFolder } from '../../read/deliveryPath'
import { defineRemedy } from '../defineRemedy'

const folder = (what: string) =>
  z
    .string()
    .max(200)
    .refine(isSafeFolder, 'a folder is plain parts with / between')
    .default('')
    .describe(`folder that ${what} go into; empty: they stay where they are`)

export const place = defineRemedy({
  id: 'files/place',
  version: 1,
  station: 'files',
  needs: 'file',
  title: 'Put files into folders',
  words: () => 'Put into folders',
  about:
    'Puts the mesh and the texture files of the asset into the folders that are named; the mesh ' +
    'points at its textures where they then are. Names and contents stay as they are, and so does ' +
    'the class.',
  options: z.strictObject({ mesh: folder('the mesh file'), textures: folder('texture files') }),
  async apply(work, { mesh, textures }) {
    const put = (path: string, into: string): string => (into === '' ? path : `${into}/${fileName(path)}`)
    const paths = work.textures.flatMap((t) => (t.path === null ? [] : [put(t.path, textures).toLowerCase()]))
    const twice = paths.find((p, i) => paths.indexOf(p) !== i)
    if (twice !== undefined)
      return bad(
        'remedy/name-taken',
        `Two textures would be the file ${twice}.`,
        'Rename one of them first.',
        { part: twice },
      )
    let moved = 0
    for (const texture of work.textures) {
      if (texture.path === null || texture.path === put(texture.path, textures)) continue
      texture.path = put(texture.path, textures)
      moved++
    }
    if (work.path !== null && work.path !== put(work.path, mesh)) {
      work.path = put(work.path, mesh)
      moved++
    }
    return good({
      changed: moved > 0,
      said:
        moved > 0
          ? `${moved} ${moved === 1 ? 'file' : 'files'} put into ${[...new Set([mesh, textures])].filter((f) => f !== '').join(' and ')}`
          : 'they stand there already',
    })
  },
})
