import { describe, expect, it } from 'vitest'
import { fileStem } from '../read/deliveryPath'
import { missingTiles, tileOf, tileSetsOf } from './tileNames'

const at = (path: string) => {
  const stem = fileStem(path)
  return { name: path.split('/').at(-1)!, stem, path, tile: tileOf(stem) }
}

describe('numbered tiles', () => {
  it('a number from 1001 at the end of a name is a tile, others are not', () => {
    expect(['wall.1001', 'wall_1012', 'wall.1000', 'wall1001', 'wall.2001', '1001'].map(tileOf)).toEqual([
      1001,
      1012,
      null,
      null,
      null,
      null,
    ])
  })
  it('those of one name are one set, in rising order; one alone is none', () => {
    const [set, ...more] = tileSetsOf(['a/wall.1002.png', 'a/wall.1001.png', 'a/roof.1001.png'].map(at))
    expect(more).toEqual([])
    expect(set).toEqual({
      name: 'wall',
      tiles: [
        { number: 1001, texture: 'wall.1001.png' },
        { number: 1002, texture: 'wall.1002.png' },
      ],
      missing: [],
    })
  })
  it('one that is missing would lie where the first one lies, under its own number', () => {
    expect(tileSetsOf(['a/b.1001/wall_1001.png', 'a/b.1001/wall_1003.png'].map(at))[0]!.missing).toEqual([
      { number: 1002, path: 'a/b.1001/wall_1002.png' },
    ])
    expect(
      tileSetsOf(['wall.1001.png', 'wall.1003.png'].map((name) => ({ ...at(name), path: null })))[0]!.missing,
    ).toEqual([{ number: 1002, path: 'wall.1002.png' }])
  })
  it('between rows only columns count that another row uses', () => {
    expect(missingTiles([1001, 1002, 1011])).toEqual([])
    expect(missingTiles([1001, 1002, 1022])).toEqual([1011, 1012, 1021])
  })
})
