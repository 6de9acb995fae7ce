import * as z from 'zod'
import { longestSide } from '../../geometry/pointBounds'
import { defineRule } from '../defineRule'

/** Factors that mend a mistaken unit, likeliest first, with what was probably meant. */
export const unitFactors: [number, string][] = [
  [0.01, 'centimetres read as metres'],
  [100, 'metres read as centimetres'],
  [0.001, 'millimetres read as metres'],
  [1000, 'metres read as millimetres'],
  [0.0254, 'inches read as metres'],
  [39.37, 'metres read as inches'],
  [0.3048, 'feet read as metres'],
  [3.281, 'metres read as feet'],
  [2.54, 'inches read as centimetres'],
  [1 / 2.54, 'centimetres read as inches'],
]

/** Further units that are named beside the likeliest. */
const MOST_OTHERS = 2

export const expectedSize = defineRule({
  id: 'scale/expected-size',
  station: 'scale',
  meta: {
    title: 'The size is what its class leads one to expect',
    why:
      'A mistaken unit makes an asset a hundred times too big or too small; physics, lights and ' +
      'levels of detail all go wrong with it.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['bounds of level 0', 'size range of the class'],
  },
  options: z.strictObject({
    slack: z
      .number()
      .min(1)
      .default(1)
      .describe('factor by which the range of the class is widened at both ends'),
    suspect: z
      .number()
      .min(1)
      .default(2)
      .describe(
        'factor by which the range must be missed before a mistaken unit is suspected; closer, the class is as likely wrong',
      ),
  }),
  messages: {
    unit: {
      byClass: true,
      text: '{size|m} long. A {class} is {min|m} to {max|m}: the numbers look like {meant}.',
    },
    units: {
      byClass: true,
      text: '{size|m} long. A {class} is {min|m} to {max|m}: the numbers look like {meant}; {others} would fit, too.',
    },
    size: { byClass: true, text: '{size|m} long. A {class} is {min|m} to {max|m}.' },
    nothing: 'The mesh has no size at all: its bounds are empty or a single point.',
  },
  labels: { rescale: 'Scale by {factor} → {after|m}' },
  judge(subject, { slack, suspect }) {
    if (!subject.mesh?.nodes) return []
    const bounds = subject.bounds
    const size = bounds ? longestSide(bounds) : 0
    const place = { kind: 'asset' as const }
    if (size === 0) return [{ message: 'nothing' as const, data: {}, place }]
    const min = subject.class.longestSide.min / slack,
      max = subject.class.longestSide.max * slack
    if (size >= min && size <= max) return []
    const data = { size, class: subject.class.title.toLowerCase(), min, max }
    const gauge = { value: size, unit: 'm' as const, min, max, scale: 'log' as const }
    const fitting =
      size * suspect > min && size < max * suspect
        ? []
        : unitFactors.filter(([factor]) => size * factor >= min && size * factor <= max)
    const likeliest = fitting[0]
    if (!likeliest) return [{ message: 'size' as const, data, place, gauge, measure: size }]
    const [factor, meant] = likeliest,
      others = fitting.slice(1, MOST_OTHERS + 1).map(([, words]) => words)
    return [
      {
        message: others.length === 0 ? ('unit' as const) : ('units' as const),
        data: {
          ...data,
          meant,
          after: size * factor,
          ...(others.length === 0 ? {} : { others: others.join(' or ') }),
        },
        place,
        gauge,
        measure: size,
        remedies: [{ remedy: 'scale/rescale', options: { factor }, label: 'rescale' as const }],
      },
    ]
  },
})
