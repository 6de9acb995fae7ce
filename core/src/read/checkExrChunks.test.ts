import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkExrChunks, type ExrBlocks } from './checkExrChunks'

const NONE = 0,
  ZIP = 3,
  PIZ = 4,
  DWAA = 8
const rows: ExrBlocks = {
  width: 10,
  height: 40,
  top: -3,
  bytesPerTexel: 6,
  compression: PIZ,
  tile: null,
  plain: true,
}
const number = (bytes: 2 | 4 | 8, value: number): number[] =>
  Array.from({ length: bytes }, (_, k) => Math.floor(value / 256 ** k) % 256)

/**
 * Three bytes of a header, the table, and blocks, each with its row (or column and row of a tile) before its
 * size.
 */
const picture = (...blocks: { at: readonly number[]; body: number[]; size?: number }[]): Uint8Array =>
  Uint8Array.from([
    1,
    2,
    3,
    ...Array<number>(blocks.length * 8).fill(0),
    ...blocks.flatMap(({ at, body, size = body.length }) => [
      ...at.flatMap((v) => number(4, v < 0 ? v + 2 ** 32 : v)),
      ...number(4, size),
      ...body,
    ]),
  ])
/** A span of two bitmap bytes from 5 on, the bitmap, the length of what follows, and that. */
const piz = (length: number, follows = 4): number[] => [
  ...number(2, 5),
  ...number(2, 6),
  7,
  7,
  ...number(4, length),
  ...Array<number>(follows).fill(9),
]
const dwa = (
  parts: [number, number, number, number],
  rules = [...number(2, 6), 82, 0, 0, 1],
  follows = 8,
): number[] => [
  ...[2, 0, ...parts, 0, 0, 0, 0, 0].flatMap((v) => number(8, v)),
  ...rules,
  ...Array<number>(follows).fill(9),
]
const codeOf = (bytes: Uint8Array, blocks: Partial<ExrBlocks> = {}): string | null => {
  const found = checkExrChunks(bytes, 3, { ...rows, ...blocks })
  return found && !found.ok ? found.fault.code : null
}
const good = (body: number[]) => [
  { at: [-3], body },
  { at: [29], body },
]

describe('blocks of an EXR', () => {
  it.each<[string, Uint8Array, Partial<ExrBlocks>]>([
    ['PIZ in two blocks of 32 rows', picture(...good(piz(4))), {}],
    [
      'PIZ that is stored as it is, since packing made it larger',
      picture(
        { at: [-3], body: Array<number>(32 * 60).fill(255) },
        { at: [29], body: Array<number>(8 * 60).fill(255) },
      ),
      {},
    ],
    [
      'ZIP in three blocks of 16 rows',
      picture({ at: [-3], body: [1] }, { at: [13], body: [] }, { at: [29], body: [1, 2] }),
      { compression: ZIP },
    ],
    ['DWAA with its parts', picture(...good(dwa([1, 2, 3, 2]))), { compression: DWAA }],
    [
      'tiles of 8 × 32',
      picture(
        ...[
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ].map(([x, y]) => ({ at: [x!, y!, 0, 0], body: piz(4) })),
      ),
      { tile: { width: 8, height: 32, levels: false } },
    ],
    ['several parts, which are not walked', Uint8Array.of(1, 2, 3), { plain: false }],
  ])('%s are sound', (_, bytes, blocks) => expect(codeOf(bytes, blocks)).toBeNull())
  it.each<[string, Uint8Array, Partial<ExrBlocks>, string]>([
    ['a file that ends in its table', Uint8Array.of(1, 2, 3, 0, 0), {}, 'image/truncated'],
    ['a block that is cut', picture(...good(piz(4))).subarray(0, -1), {}, 'image/truncated'],
    [
      'a block that claims gigabytes',
      picture({ at: [-3], body: piz(4), size: 4e9 }, { at: [29], body: piz(4) }),
      {},
      'image/truncated',
    ],
    [
      'a row above the picture',
      picture({ at: [-4], body: piz(4) }, { at: [29], body: piz(4) }),
      {},
      'image/bad-structure',
    ],
    [
      'a row below the picture',
      picture({ at: [37], body: piz(4) }, { at: [29], body: piz(4) }),
      {},
      'image/bad-structure',
    ],
    ['PIZ whose code claims more than its block', picture(...good(piz(5))), {}, 'image/bad-structure'],
    [
      'PIZ whose bitmap is longer than its block',
      picture(...good([...number(2, 0), ...number(2, 8000), 1, 2, 3, 4])),
      {},
      'image/bad-structure',
    ],
    ['PIZ of less than its head', picture(...good([1, 2, 3])), {}, 'image/bad-structure'],
    [
      'DWAA whose parts are larger than its block',
      picture(...good(dwa([1, 2, 3, 3]))),
      { compression: DWAA },
      'image/bad-structure',
    ],
    [
      'DWAA whose rule has a name without an end',
      picture(...good(dwa([1, 2, 3, 2], [...number(2, 4), 82, 82]))),
      { compression: DWAA },
      'image/bad-structure',
    ],
    [
      'a tile beside the picture',
      picture(
        ...[
          [0, 0],
          [2, 0],
          [0, 1],
          [1, 1],
        ].map(([x, y]) => ({ at: [x!, y!, 0, 0], body: piz(4) })),
      ),
      { tile: { width: 8, height: 32, levels: false } },
      'image/bad-structure',
    ],
    ['a compression that is not known', picture(...good(piz(4))), { compression: 77 }, 'image/bad-structure'],
  ])('%s is refused', (_, bytes, blocks, code) => expect(codeOf(bytes, blocks)).toBe(code))
  it('of any bytes are judged without a throw', () => {
    fc.assert(
      fc.property(
        fc.uint8Array({ maxLength: 200 }),
        fc.constantFrom(NONE, ZIP, PIZ, DWAA, 9, 12),
        (bytes, compression) => {
          checkExrChunks(bytes, 0, { ...rows, top: 0, compression })
        },
      ),
      { numRuns: 500 },
    )
  })
})
