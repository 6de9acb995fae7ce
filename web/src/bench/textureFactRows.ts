import { formatWords, type BenchTexture } from '@stern-gate/contract'
import { formatNumber, formatShare } from '@stern-gate/core/numbers'
import { bytesText, decibelText } from '../words/formats'
import { row, type Rows } from './factRows'

/** What the pixels say, with how sure; where they decide nothing the two likeliest. */
const contentText = ({ content }: BenchTexture): string =>
  !content
    ? 'not measured'
    : content.role
      ? `${content.role} · ${formatShare(content.probabilities[0]!.probability)}`
      : content.probabilities.length > 0
        ? `undecided: ${content.probabilities
            .slice(0, 2)
            .map((p) => p.role)
            .join(' or ')}`
        : 'undecided'

/** What figures are taken over: what islands use, where that is known, without a flat ground. */
const measuredText = (share: number, byIslands: boolean): string =>
  share === 1
    ? 'the whole sheet'
    : byIslands
      ? `${formatShare(share)}, by islands`
      : `${formatShare(share)} of the sheet`

/** The size that carries as much, where that is less than it has. */
const effectiveText = (
  { width, height }: { width: number; height: number },
  { times, psnr }: { times: number; psnr: number | null },
): string =>
  times === 1
    ? 'all of it'
    : `${Math.round(width / times)} × ${Math.round(height / times)}${psnr === null ? '' : ` · ${psnr.toFixed(1)} dB`}`

/** The loss in dB, or the angle of vectors, in the format of the target. */
const lossText = ({ format, psnr, angle, lost }: NonNullable<BenchTexture['asStored']>): string =>
  `${format}: ${lost.length > 0 ? `no ${lost.join(', ')}` : angle ? `${angle.mean.toFixed(2)}°` : decibelText(psnr)}`

export const resolutionRows = ({ facts, asStored }: BenchTexture): Rows => [
  ...(facts?.resolution ? [row('Effective size', effectiveText(facts.header, facts.resolution))] : []),
  ...(asStored ? [row('Kept as stored', lossText(asStored))] : []),
]

export const textureRows = (t: BenchTexture | null): Rows => {
  const h = t?.facts?.header,
    floats = t?.facts?.floats
  if (!t || !h) return []
  return [
    row('Size', `${h.width} × ${h.height}`),
    row('Channels', `${['grey', 'grey + A', 'RGB', 'RGBA'][h.channels - 1]} · ${h.depth} bit`),
    row('Format', `${formatWords(h.format)}${h.palette ? ', palette' : ''}`),
    row('On disk', bytesText(h.sizeBytes)),
    row(
      'Colour tag',
      h.colourSpace === 'unstated' ? 'nothing' : h.colourSpace === 'srgb' ? 'sRGB' : h.colourSpace,
    ),
    row('Role', t.role ? `${t.role} · by ${t.roleFrom}` : 'not known'),
    row('Role by pixels', contentText(t)),
    ...(t.facts?.content
      ? [row('Texels measured', measuredText(t.facts.content.used, t.facts.used !== null))]
      : []),
    ...(h.blockFormat ? [row('Block format', h.blockFormat)] : []),
    ...(floats
      ? [
          row('Values', `${formatNumber(floats.min, 'x')} … ${formatNumber(floats.max, 'x')}`),
          row('Above 1', formatShare(floats.above)),
          row('Below 0', formatShare(floats.below)),
        ]
      : []),
  ]
}

export const normalRows = (t: BenchTexture | null): Rows => {
  const n = t?.facts?.normal
  if (!n || t?.role !== 'normal') return []
  // Where it was not looked at, or nothing bends
  const curl = (energy: number): string => (energy === 0 ? '–' : energy.toExponential(1))
  return [
    row('Vectors fit a normal map', formatShare(n.isNormalMap)),
    row('Mean vector length', n.meanLength.toFixed(3)),
    row('Vectors facing away', formatShare(n.shareFacingAway)),
    row('Green channel', n.green.direction),
    row('Confidence', n.green.direction === 'undecided' ? '–' : formatShare(n.green.confidence)),
    row('Curl energy, green up', curl(n.green.energyUp)),
    row('Curl energy, green down', curl(n.green.energyDown)),
  ]
}
