import { describe, expect, it } from 'vitest'
import { bytesText } from './formats'

describe('bytes', () => {
  it('go to the next unit before three figures would not do', () =>
    expect([0, 999, 1000, 33_500, 999_400, 999_900, 5_610_000_000].map(bytesText)).toEqual([
      '0 B',
      '999 B',
      '1 KB',
      '33.5 KB',
      '999 KB',
      '1 MB',
      '5.61 GB',
    ]))
})
