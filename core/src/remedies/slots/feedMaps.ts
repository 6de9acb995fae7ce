import type { Material, Texture } from '@gltf-transform/core'
import { bad, good, type Outcome, type TextureRole } from '@stern-gate/contract'
import { alphaModeOf, packChannels, type ChannelName, type ChannelSource } from '../../image/packChannels'
import type { Pixels } from '../../image/pixels'
import { resizePixels } from '../../image/resizePixels'
import { fileStem } from '../../read/deliveryPath'
import { readTextureHeader } from '../../read/readTextureHeader'
import { layoutLetters } from '../../rulebook/layoutLetters'
import { withPngColourSpace } from '../../write/pngColourSpace'
import type { RemedyPorts } from '../defineRemedy'
import { addMadeTexture, decodedTexture, pictureOf } from '../madeTextures'
import { replaceBytes } from '../textureSteps'
import type { Work, WorkTexture } from '../work'

/** A texture for an input, and what of it. */
export interface FedTexture {
  texture: WorkTexture
  channel: ChannelName
  /** It carries the opposite: gloss where roughness is wanted. */
  inverted: boolean
}

type Given = ReadonlyMap<TextureRole, FedTexture>

/** glTF reads occlusion from R, roughness from G and metallic from B. */
const ORDER = ['occlusion', 'roughness', 'metallic'] as const
type PackedRole = (typeof ORDER)[number]

/**
 * Wires occlusion, roughness and metallic: a packed map in glTF's order as it is, one of another order repacked,
 * single maps packed into one. A channel that no map is given for is full, so that the slot's own value stays.
 */
export async function packMaps(
  work: Work,
  slot: Material,
  given: Given,
  layout: string,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const sources = new Map<PackedRole, FedTexture>()
  const packed = given.get('orm')
  if (packed) for (const [role, source] of fromLayout(packed, layout)) sources.set(role, source)
  for (const role of ORDER) {
    const single = given.get(role)
    if (single) sources.set(role, single)
  }
  if (sources.size === 0) return good(true)
  const asIs = plainMap(sources)
  if (asIs) {
    const picture = await pictureOf(work, asIs, ports)
    if (picture.ok) wire(slot, sources, picture.value)
    return picture.ok ? good(true) : picture
  }
  const pixels = await packedPixels(sources, ports)
  if (!pixels.ok) return pixels
  const used = [...new Set([...sources.values()].map((s) => s.texture))]
  const made = await addMadeTexture(
    work,
    { stem: `${commonStem(used)}_orm`, pixels: pixels.value, space: 'linear', beside: used[0]! },
    ports,
  )
  if (!made.ok) return made
  wire(slot, sources, made.value.pictures[0]!)
  for (const texture of used) if (texture !== made.value) texture.spent = true
  return good(true)
}

/** The texture that can be taken as it is: each channel stands where glTF reads it. */
function plainMap(sources: ReadonlyMap<PackedRole, FedTexture>): WorkTexture | null {
  const [first] = sources.values()
  const inPlace = [...sources].every(
    ([role, s]) => s.texture === first!.texture && !s.inverted && s.channel === 'RGB'[ORDER.indexOf(role)],
  )
  // A grey map has its one value in every channel, but roughness alone would be taken for metallic, too
  return inPlace && (sources.size === 1 ? sources.has('occlusion') : true) ? first!.texture : null
}

const isPacked = (role: TextureRole): role is PackedRole => (ORDER as readonly TextureRole[]).includes(role)

function* fromLayout({ texture }: FedTexture, layout: string): Generator<[PackedRole, FedTexture]> {
  for (const [i, letter] of [...layout].entries()) {
    const meant = layoutLetters[letter]
    if (meant && isPacked(meant.role))
      yield [meant.role, { texture, channel: 'RGBA'[i] as ChannelName, inverted: meant.inverted }]
  }
}

async function packedPixels(
  sources: ReadonlyMap<PackedRole, FedTexture>,
  ports: RemedyPorts,
): Promise<Outcome<Pixels>> {
  const decoded = new Map<WorkTexture, Pixels>(),
    channels: ChannelSource[] = []
  for (const role of ORDER) {
    const source = sources.get(role)
    if (!source) {
      channels.push(1)
      continue
    }
    if (!decoded.has(source.texture)) {
      const pixels = await decodedTexture(source.texture, ports)
      if (!pixels.ok) return pixels
      decoded.set(source.texture, pixels.value)
    }
    channels.push({
      pixels: decoded.get(source.texture)!,
      channel: source.channel,
      inverted: source.inverted,
    })
  }
  return good(packChannels(channels))
}

function wire(slot: Material, sources: ReadonlyMap<PackedRole, FedTexture>, picture: Texture): void {
  if (sources.has('occlusion')) slot.setOcclusionTexture(picture)
  if (!sources.has('roughness') && !sources.has('metallic')) return
  const first = !slot.getMetallicRoughnessTexture()
  slot.setMetallicRoughnessTexture(picture)
  // Without a map a factor is the value itself; with the first one it would lower it
  if (first && sources.has('roughness')) slot.setRoughnessFactor(1)
  if (first && sources.has('metallic')) slot.setMetallicFactor(1)
}

/** What the names of textures begin with in common; of one its name without the last word. */
function commonStem(textures: readonly WorkTexture[]): string {
  const [first = '', ...others] = textures.map((t) => fileStem(t.name))
  let length = others.length === 0 ? Math.max(0, first.search(/[_\-. ][^_\-. ]*$/)) : first.length
  for (const other of others)
    while (length > 0 && other.slice(0, length).toLowerCase() !== first.slice(0, length).toLowerCase())
      length--
  return first.slice(0, length).replace(/[_\-. ]+$/, '') || first
}

/** Puts opacity into the alpha of the base colour, and lets the slot use it as its values ask for. */
export async function blendIn(
  work: Work,
  slot: Material,
  opacity: FedTexture,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const picture = slot.getBaseColorTexture()
  const base = picture ? work.textures.find((t) => t.pictures.includes(picture)) : undefined
  if (picture && !base)
    return bad(
      'remedy/not-applicable',
      'The base colour that the opacity belongs to did not come.',
      'Deliver it, or give the slot another base colour.',
      { slot: slot.getName() },
    )
  const alpha = await decodedTexture(opacity.texture, ports)
  if (!alpha.ok) return alpha
  const colour = base ? await decodedTexture(base, ports) : null
  if (colour && !colour.ok) return colour
  const source = { pixels: alpha.value, channel: opacity.channel, inverted: false }
  const sized = colour ? asLargeAs(colour.value, alpha.value) : null
  const channel = (name: ChannelName): ChannelSource =>
    sized ? { pixels: sized, channel: name, inverted: false } : 1
  const pixels = packChannels([channel('R'), channel('G'), channel('B'), source])
  const kept = await keepColour(work, { base, pixels, opacity: opacity.texture, slot }, ports)
  if (!kept.ok) return kept
  const mode = alphaModeOf(pixels)
  slot.setAlphaMode(mode === 'cutout' ? 'MASK' : mode === 'blend' ? 'BLEND' : 'OPAQUE')
  if (opacity.texture !== base) opacity.texture.spent = true
  return good(true)
}

/** A colour brought to the size of a larger picture, in the right light. */
const asLargeAs = (colour: Pixels, other: Pixels): Pixels =>
  other.width > colour.width || other.height > colour.height
    ? resizePixels(colour, Math.max(colour.width, other.width), Math.max(colour.height, other.height), 'srgb')
    : colour

/** Writes the colour with its alpha in place of the old one, unless another slot uses the alpha of that. */
async function keepColour(
  work: Work,
  {
    base,
    pixels,
    opacity,
    slot,
  }: { base: WorkTexture | undefined; pixels: Pixels; opacity: WorkTexture; slot: Material },
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const others = work
    .document!.getRoot()
    .listMaterials()
    .some(
      (m) => m !== slot && m.getAlphaMode() !== 'OPAQUE' && base?.pictures.includes(m.getBaseColorTexture()!),
    )
  if (base && !others) {
    const header = readTextureHeader(base.bytes, base.name)
    const space = header.ok && header.value.colourSpace === 'linear' ? 'linear' : 'srgb'
    const png = withPngColourSpace(await ports.encodePng(pixels), space)
    if (!png.ok) return png
    replaceBytes(base, png.value)
    return good(true)
  }
  const made = await addMadeTexture(
    work,
    {
      stem: `${commonStem(base ? [base, opacity] : [opacity])}_basecolor`,
      pixels,
      space: 'srgb',
      beside: base ?? opacity,
    },
    ports,
  )
  if (!made.ok) return made
  slot.setBaseColorTexture(made.value.pictures[0]!)
  return good(true)
}
