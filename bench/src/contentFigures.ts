import { measureTexture, readTextureHeader, roleByContent } from '@stern-gate/core'
import { madeMaps, madeNormalMaps, pngOf, type MadeMap } from '@stern-gate/core/fixtures'
import { good } from '@stern-gate/contract'
import type { Figure } from './figure'

/** What is told of made maps by their texels alone, on seeds that the tests do not use. */
export function contentFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell('Roles of 400 made maps')
  const told = madeMaps(101, 400).map((map) => ({ is: map.role, said: roleByContent(factsOf(map)).role }))
  const decided = told.filter((t) => t.said !== null),
    right = decided.filter((t) => t.said === t.is)
  tell('160 made normal maps with grounds, steep, tilted and clipped')
  const normals = madeNormalMaps(102, 160).map((map) => ({ map, normal: factsOf(map).normal! }))
  const missed = normals.filter(({ normal }) => normal.isNormalMap < 0.5),
    green = normals.filter(({ normal }) => normal.green.direction !== 'undecided'),
    wrong = green.filter(({ map, normal }) => normal.green.direction !== map.green)
  return Promise.resolve([
    {
      what: 'Roles of 400 made maps by their texels: right ones among those decided',
      measured: `${right.length} of ${decided.length} decided, ${told.length - decided.length} undecided`,
      ratio: right.length / decided.length,
      wanted: { least: 0.9 },
    },
    {
      what: 'Of these, normal maps said to be something else, and others said to be one',
      measured: `${decided.filter((t) => (t.is === 'normal') !== (t.said === 'normal')).length} of ${decided.length}`,
      ratio: decided.filter((t) => (t.is === 'normal') !== (t.said === 'normal')).length,
      wanted: { most: 0 },
    },
    {
      what: '160 made normal maps with grounds, steep, tilted, clipped, lossy ones: not known as such',
      measured: `${missed.length} of ${normals.length}`,
      ratio: missed.length / normals.length,
      wanted: { most: 0 },
    },
    {
      what: 'Of these, the direction of green told wrong',
      measured: `${wrong.length} of ${green.length} told`,
      ratio: wrong.length,
      wanted: { most: 0 },
    },
  ])
}

function factsOf({ pixels }: MadeMap): ReturnType<typeof measureTexture> {
  const header = readTextureHeader(pngOf(pixels))
  if (!header.ok) throw new Error(header.fault.why)
  return measureTexture(header.value, good(pixels))
}
