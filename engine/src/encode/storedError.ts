import { bad, good, type EncodingPlan, type Outcome, type StoredError } from '@stern-gate/contract'
import { readTextureHeader } from '@stern-gate/core'
import { decodeImage } from '../imagePorts'
import { keptBy } from './encodeTexture'
import { lossOf, meanDecibels, neededChannels, windowsOf } from './windows'

/** More texels are not looked at. */
const MOST_TEXELS = 8192 * 8192
const NAMES = ['R', 'G', 'B', 'A'] as const

/**
 * What a texture loses in a format, over the windows that a search looks at: encoded at their own size without mips, read
 * back and compared where UV islands use them. Faults: of reading, image/too-large, encode/refused.
 */
export async function storedError(
  bytes: Uint8Array,
  path: string,
  { format, role }: Pick<EncodingPlan, 'format' | 'role'>,
  cells: Uint32Array | null,
): Promise<Outcome<StoredError>> {
  const header = readTextureHeader(bytes, path)
  if (!header.ok) return header
  const { width, height } = header.value
  if (width * height > MOST_TEXELS)
    return bad('image/too-large', `${width} × ${height} texels are more than is encoded.`, 'Resize it first.')
  const source = await decodeImage(bytes, header.value)
  if (!source.ok) return source
  const needed = neededChannels(source.value, role),
    keeps = keptBy(format),
    compared = needed.filter((c) => keeps.includes(c)),
    windows = windowsOf({ picture: source.value, cells })
  const psnr: (number | null)[] = [],
    angles: { mean: number; p95: number }[] = []
  for (const window of windows) {
    const loss = await lossOf(window, { format, times: 1, role, compared })
    if (!loss.ok) return loss
    psnr.push(loss.value.psnrAll)
    if (loss.value.angle) angles.push(loss.value.angle)
  }
  return good({
    format,
    windows: windows.length,
    psnr: meanDecibels(psnr),
    angle:
      angles.length === 0
        ? null
        : {
            mean: angles.reduce((sum, a) => sum + a.mean, 0) / angles.length,
            p95: Math.max(...angles.map((a) => a.p95)),
          },
    lost: needed.filter((c) => !keeps.includes(c)).map((c) => NAMES[c]!),
  })
}
