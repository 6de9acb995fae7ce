import { bad, good, type Outcome, type TextureHeader } from '@stern-gate/contract'
import { iccProfile } from './iccProfile'
import { plainTexels } from './plainTexels'

const hint = 'The picture is damaged; save or copy it again.'

interface Box {
  type: string
  from: number
  to: number
}

/**
 * Reads size, alpha and stated colour of an AVIF (ISO/IEC 23000-22: the item properties of its meta box).
 * Deeper pictures are decoded to 8 bit. Faults: image/truncated, image/bad-structure.
 */
export function readAvifHeader(bytes: Uint8Array): Outcome<TextureHeader> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const find = (boxes: Box[], type: string): Box | undefined => boxes.find((b) => b.type === type)
  const top = boxesOf(view, 0, bytes.length),
    meta = find(top, 'meta')
  if (top.some((b) => b.to > bytes.length))
    return bad('image/truncated', 'The AVIF is shorter than its boxes claim.', hint, { offset: bytes.length })
  const properties = meta && find(boxesOf(view, meta.from + 4, meta.to), 'iprp'),
    list = properties && find(boxesOf(view, properties.from, properties.to), 'ipco')
  const items = list ? boxesOf(view, list.from, list.to).filter((b) => b.to <= bytes.length) : []
  const sizes = items
    .filter((b) => b.type === 'ispe' && b.to - b.from >= 12)
    .map((b) => [view.getUint32(b.from + 4), view.getUint32(b.from + 8)] as const)
  // A picture in tiles lists the size of the tiles, too
  const [width, height] = sizes.sort((a, b) => b[0] * b[1] - a[0] * a[1])[0] ?? [0, 0]
  if (width === 0 || height === 0)
    return bad('image/bad-structure', 'The AVIF does not say its size.', hint, { part: 'ispe' })
  const text = (b: Box): string => String.fromCharCode(...bytes.subarray(b.from, Math.min(b.to, b.from + 64)))
  const alpha = items.some((b) => b.type === 'auxC' && /:alpha|auxid:1/.test(text(b)))
  const grey =
    items.some((b) => b.type === 'pixi' && bytes[b.from + 4] === 1) &&
    !items.some((b) => b.type === 'pixi' && bytes[b.from + 4] === 3)
  return good({
    format: 'avif',
    width,
    height,
    channels: (grey ? 1 : 3) + (alpha ? 1 : 0),
    depth: 8,
    palette: false,
    alpha,
    ...plainTexels,
    ...colourOf(items, view),
    sizeBytes: bytes.length,
  })
}

/** Transfer characteristics of ITU-T H.273: 13 is sRGB, 8 linear. */
function colourOf(
  items: readonly Box[],
  view: DataView,
): Pick<TextureHeader, 'colourSpace' | 'colourEvidence'> {
  for (const box of items) {
    if (box.type !== 'colr' || box.to - box.from < 10) continue
    const kind = view.getUint32(box.from)
    if (kind !== 0x6e636c78)
      return iccProfile(
        new Uint8Array(view.buffer, view.byteOffset + box.from + 4, Math.max(0, box.to - box.from - 4)),
      )
    const transfer = view.getUint16(box.from + 6)
    return {
      colourSpace:
        transfer === 13 ? 'srgb' : transfer === 8 ? 'linear' : transfer === 2 ? 'unstated' : 'other',
      colourEvidence: [`nclx transfer ${transfer}`],
    }
  }
  return { colourSpace: 'unstated', colourEvidence: [] }
}

function boxesOf(view: DataView, from: number, to: number): Box[] {
  const boxes: Box[] = []
  for (let at = from; at + 8 <= Math.min(to, view.byteLength) && boxes.length < 4096;) {
    const size = view.getUint32(at),
      type = String.fromCharCode(
        view.getUint8(at + 4),
        view.getUint8(at + 5),
        view.getUint8(at + 6),
        view.getUint8(at + 7),
      )
    const large = size === 1 && at + 16 <= view.byteLength
    const length = large ? Number(view.getBigUint64(at + 8)) : size === 0 ? to - at : size
    if (length < 8) break
    boxes.push({ type, from: at + (large ? 16 : 8), to: at + length })
    at += length
  }
  return boxes
}
