import { good, type EncodingPlan, type Outcome, type StoredError } from '@stern-gate/contract'
import { channelLetters, keptBy } from './encodeTexture'
import {
  lookedAt,
  lossOf,
  meanDecibels,
  neededChannels,
  pictureToTry,
  windowsOf,
  type Stray,
} from './windows'

/** A grey map that went through a lossy format is not coloured, and a few texels of alpha are no alpha. */
const NOISE: Stray = { levels: 4, share: 0.001 }

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
  const source = await pictureToTry(bytes, path)
  if (!source.ok) return source
  const needed = neededChannels(source.value, role, NOISE),
    keeps = keptBy(format),
    compared = needed.filter((c) => keeps.includes(c)),
    windows = windowsOf(lookedAt(source.value, cells))
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
    lost: needed.filter((c) => !keeps.includes(c)).map((c) => channelLetters[c]!),
  })
}
