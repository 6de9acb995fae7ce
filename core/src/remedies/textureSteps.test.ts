import { expect, it } from 'vitest'
import { replaceBytes } from './textureSteps'

it.each([
  ['wood_normal.jpg', 'wood_normal.png'],
  ['wood.tif', 'wood.png'],
  ['wood.TIFF', 'wood.png'],
  ['wood.avif', 'wood.png'],
  ['wood.tga#2', 'wood.png#2'],
  ['wood.1001.webp', 'wood.1001.png'],
  ['wood.png', 'wood.png'],
])('%s that was written as PNG is called %s, and still found by its old name', (from, to) => {
  const texture = {
    name: from,
    aliases: [] as string[],
    path: `props/${from}`,
    bytes: new Uint8Array(0),
    pictures: [],
  }
  replaceBytes(texture, new Uint8Array(1))
  expect([texture.name, texture.path, texture.aliases]).toEqual([
    to,
    `props/${to}`,
    from === to ? [] : [from],
  ])
})
