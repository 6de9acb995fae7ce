import * as z from 'zod'
import { longestSide } from '../../geometry/pointBounds'
import { defineRule } from '../defineRule'

/** Factors that mend a mistaken unit, likeliest first, with what was probably meant. */
const unitFactors: [number, string][] = [
  [0.01, 'centimetres read as metres'], [100, 'metres read as centimetres'], [0.001, 'millimetres read as metres'], [1000, 'metres read as millimetres'],
  [0.0254, 'inches read as metres'], [39.37, 'metres read as inches'], [0.3048, 'feet read as metres'], [3.281, 'metres read as feet'],
  [2.54, 'inches read as centimetres'], [1 / 2.54, 'centimetres read as inches'],
]

export const expectedSize = defineRule({
  id: 'scale/expected-size',
  station: 'scale',
  meta: {
    title: 'The size is what its class leads one to expect',
    why: 'A mistaken unit makes an asset a hundred times too big or too small; physics, lights and levels of detail all go wrong with it.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['bounds of level 0', 'size range of the class'],
  },
  options: z.strictObject({ slack: z.number().min(1).default(1).describe('factor by which the range of the class is widened at both ends') }),
  messages: {
    unit: '{size|m} long. A {class} is {min|m} to {max|m}: the numbers look like {meant}.',
    size: '{size|m} long. A {class} is {min|m} to {max|m}.',
    nothing: 'The mesh has no size at all: its bounds are empty or a single point.',
  },
  labels: { rescale: 'Scale by {factor} → {after|m}' },
  judge(subject, { slack }) {
    if (!subject.mesh?.nodes) return []
    const bounds = subject.bounds
    const size = bounds ? longestSide(bounds) : 0
    const place = { kind: 'asset' as const }
    if (size === 0) return [{ message: 'nothing' as const, data: {}, place }]
    const min = subject.class.longestSide.min / slack, max = subject.class.longestSide.max * slack
    if (size >= min && size <= max) return []
    const data = { size, class: subject.class.title.toLowerCase(), min, max }
    const gauge = { value: size, unit: 'm' as const, min, max, scale: 'log' as const }
    const unit = unitFactors.find(([factor]) => size * factor >= min && size * factor <= max)
    if (!unit) return [{ message: 'size' as const, data, place, gauge, measure: size }]
    const [factor, meant] = unit
    return [{
      message: 'unit' as const, data: { ...data, meant, after: size * factor }, place, gauge, measure: size,
      remedies: [{ remedy: 'scale/rescale', options: { factor }, label: 'rescale' as const }],
    }]
  },
})
