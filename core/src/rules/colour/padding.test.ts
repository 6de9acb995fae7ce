import { describe, expect, it } from 'vitest'
import type { GroundFacts } from '@stern-gate/contract'
import { CELLS, packCells } from '../../geometry/cellMask'
import type { Subject } from '../../subject/subject'
import { padding } from './padding'

const columns = (isOn: (x: number) => boolean): string =>
  packCells(Uint8Array.from({ length: CELLS * CELLS }, (_, cell) => (isOn(cell % CELLS) ? 1 : 0)))

/** A texture on islands in some columns, of which other columns are a black ground. */
function found(island: (x: number) => boolean, ground: (x: number) => boolean, input = 'basecolor') {
  const facts: GroundFacts = { kind: 'black', share: 0.5, value: [0, 0, 0], cells: columns(ground) }
  const subject = {
    mesh: {
      slots: [{ name: 'hull', textures: [{ field: 'base', placement: null }] }],
      islands: [{ slot: 'hull', channel: 0, cells: columns(island) }],
    },
    textures: [
      {
        name: 'hull_basecolor.png',
        uses: [{ slot: 'hull', field: 'base', channel: 0, input }],
        facts: {
          ground: facts,
          header: { width: 4096, height: 2048 },
          content: { mean: [0.5, 0.4, 0.3] },
        },
      },
    ],
  } as unknown as Subject
  return padding.judge(subject, padding.options.parse({}))
}

describe('the ground beside islands', () => {
  it('is told with its share, its width in texels and the mip level that reaches it', () => {
    // Ground begins at once on the right, four cells further on the left
    const [finding] = found(
      (x) => x >= 100 && x < 150,
      (x) => x >= 150 || x < 96,
    )
    expect(finding).toMatchObject({ message: 'bare', data: { percent: 50, texels: 16, mip: 4 } })
    expect(finding!.gauge).toMatchObject({ value: 0.5, max: 0.1 })
  })
  it('is nothing beside islands that have its colour themselves', () => {
    expect(
      found(
        (x) => x < 10,
        (x) => x >= 5,
      ),
    ).toEqual([])
  })
  it('is not told of inputs of extensions, which cannot be grown', () => {
    const both = [(x: number) => x < 10, (x: number) => x >= 10] as const
    expect(found(...both)).toHaveLength(1)
    expect(found(...both, 'other')).toEqual([])
  })
})
