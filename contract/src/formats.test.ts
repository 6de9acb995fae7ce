import { expect, it } from 'vitest'
import { fileKinds, formats, formatWords, meshFormats, textureFormats } from './formats'

const all = Object.entries(formats)

it('no two formats share an extension or a mark', () => {
  for (const list of [all.flatMap(([, f]) => f.extensions), all.flatMap(([, f]) => f.marks)])
    expect(new Set(list).size).toBe(list.length)
})

it('each is known by its bytes or by what they look like, and has words', () => {
  for (const [kind, { marks, looks, words }] of all) {
    expect([kind, marks.length > 0 || looks !== null]).toEqual([kind, true])
    expect(words).not.toBe('')
  }
  expect(fileKinds).toHaveLength(all.length + 1)
  expect([formatWords('dae'), formatWords('unknown')]).toEqual(['COLLADA', 'unknown'])
})

it('what glTF can hold comes before what can say less of a surface', () => {
  expect(meshFormats).toEqual(['glb', 'gltf', 'fbx', 'dae', 'obj', 'ply', 'stl'])
  expect(textureFormats).toContain('hdr')
})
