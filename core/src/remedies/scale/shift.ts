import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { formatLength } from '../../numbers/formatNumber'
import { defineRemedy } from '../defineRemedy'
import { moveDocument } from './movePivot'

const metres = z.number().min(-1e6).max(1e6).default(0)

export const shift = defineRemedy({
  id: 'scale/shift',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Shift',
  words: ({ x, y, z }) => `Shift by ${formatLength(Math.hypot(x, y, z))}`,
  about:
    'Moves the whole asset by a distance along each axis. Levels and collision go along; shapes and clips stay as they are.',
  options: z.strictObject({
    x: metres.describe('metres along X'),
    y: metres.describe('metres along Y, upward'),
    z: metres.describe('metres along Z'),
  }),
  async apply(work, { x, y, z: along }) {
    if (!work.document) return good({ changed: false, said: 'a texture set stands nowhere' })
    const distance = Math.hypot(x, y, along)
    if (distance < 1e-6) return good({ changed: false, said: 'by nothing' })
    moveDocument(work.document, [x, y, along])
    return good({ changed: true, said: `moved by ${formatLength(distance)}` })
  },
})
