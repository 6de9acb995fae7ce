import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { resolveReference } from '../read/deliveryPath'
import { relativePath } from '../write/relativePath'
import { packagePaths } from './packagePaths'

const mesh = (name: string, ...paths: string[]) => ({
  name,
  kind: 'mesh' as const,
  files: paths.map((path) => ({ path })),
})

describe('paths in a package', () => {
  it('stand below target, kind and asset, as the files stood to one another', () => {
    const crate = mesh('harbour_crate_a', 'pack/models/crate.glb', 'pack/maps/crate_normal.png')
    expect(packagePaths('desk', crate, new Set())).toEqual([
      'desk/meshes/harbour_crate_a/models/crate.glb',
      'desk/meshes/harbour_crate_a/maps/crate_normal.png',
    ])
    const set = { name: 'cobbles', kind: 'texture-set' as const, files: [{ path: 'cobbles_basecolor.png' }] }
    expect(packagePaths('desk', set, new Set())).toEqual(['desk/texture-sets/cobbles/cobbles_basecolor.png'])
  })
  it('of two assets never meet, not even where letters are not told apart', () => {
    const taken = new Set<string>()
    const all = ['Crate', 'crate', 'crate'].flatMap((name) =>
      packagePaths('desk', mesh(name, 'a.glb'), taken),
    )
    expect(all).toEqual(['desk/meshes/Crate/a.glb', 'desk/meshes/crate-2/a.glb', 'desk/meshes/crate-3/a.glb'])
  })
  it('are folders of any file system, whatever the asset is called', () => {
    const of = (name: string): string =>
      packagePaths('desk', mesh(name, 'a.glb'), new Set())[0]!.split('/')[2]!
    expect(['a/b', '..', 'CON', 'wall: “old”?', 'box. ', ''].map(of)).toEqual([
      'a_b',
      '_',
      'CON_',
      'wall_ “old”_',
      'box',
      '_',
    ])
  })
  it('keep what a mesh refers to', () => {
    const part = fc.stringMatching(/^[a-z]{1,4}$/)
    const path = fc.array(part, { minLength: 1, maxLength: 4 }).map((p) => p.join('/'))
    fc.assert(
      fc.property(fc.uniqueArray(path, { minLength: 2, maxLength: 5 }), (paths) => {
        const packed = packagePaths('desk', mesh('x', ...paths), new Set())
        for (let k = 1; k < paths.length; k++) {
          const asked = relativePath(paths[0]!, paths[k]!)
          const from = new URL(asked, `http://x/${packed[0]}`).pathname.slice(1)
          expect(decodeURIComponent(from)).toBe(packed[k])
        }
        expect(new Set(packed).size).toBe(paths.length)
        expect(resolveReference(packed[1]!, packed)?.path).toBe(packed[1])
      }),
    )
  })
})
