import { DataUtils } from 'three'

/**
 * An uncompressed TIFF of floating-point samples (TIFF 6.0): header, samples, directory, and what does not
 * fit into it.
 */
export function floatTiff(
  width: number,
  height: number,
  channels: number,
  values: readonly number[],
  bits: 16 | 32 | 64,
): Uint8Array {
  const samples = new Uint8Array(
    (bits === 16
      ? Uint16Array.from(values, (v) => DataUtils.toHalfFloat(v))
      : bits === 32
        ? Float32Array.from(values)
        : Float64Array.from(values)
    ).buffer,
  )
  const SHORT = 3,
    LONG = 4,
    shorts = (value: number): [number, number[]] => [SHORT, Array<number>(channels).fill(value)]
  const tags: [tag: number, type: number, values: number[]][] = [
    [256, LONG, [width]],
    [257, LONG, [height]],
    [258, ...shorts(bits)],
    [259, SHORT, [1]],
    [262, SHORT, [channels < 3 ? 1 : 2]],
    [273, LONG, [8]],
    [277, SHORT, [channels]],
    [278, LONG, [height]],
    [279, LONG, [samples.length]],
    ...(channels % 2 === 0 ? [[338, SHORT, [2]] as [number, number, number[]]] : []),
    [339, ...shorts(3)],
  ]
  const directory = 8 + samples.length
  let more = directory + 6 + tags.length * 12
  const out = new DataView(
    new ArrayBuffer(
      more +
        tags
          .filter(([, type, v]) => type === SHORT && v.length > 2)
          .reduce((sum, [, , v]) => sum + v.length * 2, 0),
    ),
  )
  out.setUint32(0, 0x49492a00)
  out.setUint32(4, directory, true)
  new Uint8Array(out.buffer).set(samples, 8)
  out.setUint16(directory, tags.length, true)
  for (const [k, [tag, type, own]] of tags.entries()) {
    const at = directory + 2 + k * 12,
      apart = type === SHORT && own.length > 2
    out.setUint16(at, tag, true)
    out.setUint16(at + 2, type, true)
    out.setUint32(at + 4, own.length, true)
    if (apart) out.setUint32(at + 8, more, true)
    own.forEach((value, i) =>
      type === LONG
        ? out.setUint32(at + 8, value, true)
        : out.setUint16((apart ? more : at + 8) + i * 2, value, true),
    )
    if (apart) more += own.length * 2
  }
  return new Uint8Array(out.buffer)
}
