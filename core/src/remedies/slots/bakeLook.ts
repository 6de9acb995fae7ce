import type { Material, Primitive, TextureInfo } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, tintChannels, type Outcome } from '@stern-gate/contract'
import type { Pixels } from '../../image/pixels'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { formatCount, formatShare } from '../../numbers/formatNumber'
import { bakeLook as bake, type BakedLook, type Look, type LookPiece } from '../../picture/bakeLook'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { slotNotes, noteOfSlot, type SlotNotes } from '../../scene/slotNotes'
import { channelOf, placedUvs, placementOf, placeTexture } from '../../scene/texturePlacement'
import { detailInputs, layerInputs } from '../../scene/addedInputs'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { addMadeTexture, decodedTexture, isUsed } from '../madeTextures'
import { textureOf } from '../textureSteps'
import type { Work, WorkTexture } from '../work'
import { uvChannel } from '../uvs/changeChannels'
import { slotCalled } from './slotCalled'
import { textureOption } from './slotOptions'

/** Share of the texels that places which look different may have in common: what borders round to. */
const MOST_SHARED = 0.01
/** Side of the maps where the slot has none. */
const FIRST_SIDE = 512

const optionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  uv: uvChannel
    .nullable()
    .default(null)
    .describe('UV channel that the maps are for, with a place for each piece; null: that of its base colour'),
  side: z
    .int()
    .min(16)
    .max(8192)
    .nullable()
    .default(null)
    .describe('texels of a side; null: as large as its maps'),
  mask: textureOption('mask of tints and layer; null: the one that it is fed with'),
})

/** Bakes what glTF has no place for into the maps of a slot. */
export const bakeLook = defineRemedy({
  id: 'slots/bake-look',
  version: 2,
  station: 'slots',
  needs: 'texels',
  title: 'Bake tints, detail map and second layer into the maps',
  words: ({ slot }) => `${slot}: bake its look`,
  about:
    'Makes a base colour, a packed map and a normal map of a slot that show its tints, its detail map and its second ' +
    'layer wherever the file is opened, and takes them off the slot. Every place of the surface needs a place of its own on the sheet: what ' +
    'repeats or overlaps there is baked on another UV channel. Maps of the finest level are made; normal ' +
    'maps are joined where all lie on that channel.',
  options: optionsSchema,
  isSlow: true,
  async apply(work, options, ports) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return found
    const slot = found.value,
      notes = slotNotes(slot)
    if (!notes.layer && !notes.detail && (notes.tints ?? []).length === 0)
      return good({
        changed: false,
        said: `${options.slot} has neither tints, a detail map nor a second layer`,
      })
    const maps = await mapsOf(work, slot, notes, options.mask, ports)
    if (!maps.ok) return maps
    const info = slot.getBaseColorTextureInfo(),
      channel = options.uv ?? (info ? channelOf(info) : 0)
    const joined = normalsMeet(slot, notes, channel, maps.value)
    if (!joined.ok) return joined
    const pieces = piecesOf(work, slot, notes, channel)
    if (!pieces.ok) return pieces
    const { width, height } = options.side
      ? { width: options.side, height: options.side }
      : sizeOf([maps.value.base, maps.value.packed, maps.value.normal])
    const [r, g, b] = slot.getBaseColorFactor()
    const baked = bake(
      pieces.value,
      {
        factor: [r, g, b],
        roughness: slot.getRoughnessFactor(),
        metallic: slot.getMetallicFactor(),
        ...maps.value,
        tints: notes.tints ?? [],
        layer: notes.layer ?? null,
        detail: notes.detail ?? null,
        normalStrength: slot.getNormalScale(),
      },
      width,
      height,
    )
    if (baked.covered === 0) return good({ changed: false, said: `UV${channel} of ${options.slot} is empty` })
    if (baked.shared > baked.covered * MOST_SHARED)
      return bad(
        'remedy/not-applicable',
        `${formatShare(baked.shared / baked.covered)} of the texels on UV${channel} are shared by places that look different.`,
        'Lay out a UV channel with a place for each piece, and bake on that one.',
        { slot: options.slot },
      )
    const wired = await wire(
      work,
      slot,
      { baked, maps: maps.value, channel, name: options.slot, notes },
      ports,
    )
    if (!wired.ok) return wired
    return good({
      changed: true,
      said: `${formatCount(baked.covered)} texels of ${width} × ${height} show its look`,
    })
  },
})

type Maps = Pick<
  Look,
  | 'base'
  | 'packed'
  | 'mask'
  | 'normal'
  | 'layerTexture'
  | 'layerRoughness'
  | 'layerNormal'
  | 'detailTexture'
  | 'detailNormal'
>

async function mapsOf(
  work: Work,
  slot: Material,
  { inputs, layer, detail, tints }: SlotNotes,
  given: string | null,
  ports: RemedyPorts,
): Promise<Outcome<Maps>> {
  const ofPicture = (picture: ReturnType<Material['getBaseColorTexture']>): WorkTexture | null =>
    (picture && work.textures.find((t) => t.pictures.includes(picture))) ?? null
  const named = (name: string | null | undefined): Outcome<WorkTexture | null> =>
    name == null ? good(null) : textureOf(work, name)
  const needsMask = layer?.by.kind === 'mask' || (tints ?? []).length > 0
  const mask = named(needsMask ? (given ?? inputs?.['tint']) : null)
  if (!mask.ok) return mask
  if (needsMask && !mask.value)
    return bad(
      'remedy/not-applicable',
      `${layer?.by.kind === 'mask' ? 'The layer lies' : 'Tints lie'} by a mask, and the slot is fed with none.`,
      'Name its mask.',
    )
  const wanted = {
    base: good(ofPicture(slot.getBaseColorTexture())),
    packed: good(ofPicture(slot.getMetallicRoughnessTexture())),
    normal: good(ofPicture(slot.getNormalTexture())),
    mask,
    layerTexture: named(layer && inputs?.[layerInputs.texture]),
    layerRoughness: named(layer && inputs?.[layerInputs.roughnessTexture]),
    layerNormal: named(layer && inputs?.[layerInputs.normalTexture]),
    detailTexture: named(detail && inputs?.[detailInputs.texture]),
    detailNormal: named(detail && inputs?.[detailInputs.normalTexture]),
  } satisfies Record<keyof Maps, Outcome<WorkTexture | null>>
  const maps = Object.fromEntries(Object.keys(wanted).map((key) => [key, null])) as unknown as Maps
  for (const key of Object.keys(wanted) as (keyof Maps)[]) {
    const found = wanted[key]
    if (!found.ok) return found
    // The map of normals is read only where something is laid on it
    if (!found.value || (key === 'normal' && !bringsNormals(wanted))) continue
    const pixels = await decodedTexture(found.value, ports)
    if (!pixels.ok) return pixels
    maps[key] = pixels.value
  }
  return good(maps)
}

const bringsNormals = (found: Record<'layerNormal' | 'detailNormal', Outcome<WorkTexture | null>>): boolean =>
  [found.layerNormal, found.detailNormal].some((one) => one.ok && one.value !== null)

/** Normals of different channels lean on different tangents: they can be joined only on one. */
function normalsMeet(
  slot: Material,
  { layer, detail }: SlotNotes,
  channel: number,
  maps: Maps,
): Outcome<true> {
  const info = maps.normal ? slot.getNormalTextureInfo() : null
  const others = [
    info && { what: 'its normal map', uv: channelOf(info), turn: placementOf(info)?.turn ?? 0 },
    maps.layerNormal && { what: 'the normal map of its layer', uv: layer!.uv, turn: 0 },
    maps.detailNormal && { what: 'the normal map of its detail', uv: detail!.uv, turn: 0 },
  ]
  const far =
    maps.layerNormal || maps.detailNormal ? others.find((o) => o && (o.uv !== channel || o.turn !== 0)) : null
  return far
    ? bad(
        'remedy/not-applicable',
        `The maps are baked on UV${channel}, ${far.uv === channel ? `on which ${far.what} is turned` : `and ${far.what} is laid on UV${far.uv}`}.`,
        'Bake on the channel that all normal maps lie on, or take the other one off.',
        { slot: slot.getName() },
      )
    : good(true)
}

/** As large as the largest of the maps. */
function sizeOf(maps: readonly (Pixels | null)[]): { width: number; height: number } {
  const there = maps.filter((m) => m !== null)
  return {
    width: Math.max(0, ...there.map((m) => m.width)) || FIRST_SIDE,
    height: Math.max(0, ...there.map((m) => m.height)) || FIRST_SIDE,
  }
}

/** What of the finest level wears the slot; what only coarser ones have is taken where that has none. */
function piecesOf(
  work: Work,
  slot: Material,
  { layer, detail }: SlotNotes,
  channel: number,
): Outcome<LookPiece[]> {
  const { finest, all } = partsOfDocument(work.document!)
  const wearing = (nodes: typeof all): Primitive[] => [
    ...new Set(nodes.flatMap((n) => n.primitives).filter((p) => p.getMaterial() === slot)),
  ]
  const own = wearing(finest)
  const pieces: LookPiece[] = []
  for (const primitive of own.length > 0 ? own : wearing(all)) {
    const { uvs, indices, positions } = primitiveView(primitive)
    const sheet = uvs[channel]
    if (!sheet)
      return bad(
        'remedy/not-applicable',
        `A part of the slot has no UV${channel}.`,
        'Lay out that channel first.',
      )
    const readBy = (info: TextureInfo | null): Float32Array =>
      info ? placedUvs(uvs[channelOf(info)] ?? sheet, placementOf(info)) : sheet
    pieces.push({
      indices,
      sheet,
      base: readBy(slot.getBaseColorTexture() && slot.getBaseColorTextureInfo()),
      packed: readBy(slot.getMetallicRoughnessTexture() && slot.getMetallicRoughnessTextureInfo()),
      normal: readBy(slot.getNormalTexture() && slot.getNormalTextureInfo()),
      detail: detail ? (uvs[detail.uv] ?? null) : null,
      layer: layer ? (uvs[layer.uv] ?? null) : null,
      amounts: layer?.by.kind === 'vertex' ? amountsOf(primitive, layer.by, positions.length / 3) : null,
    })
  }
  return good(pieces)
}

/** A channel of a set of vertex colours; null where the primitive has none of it. */
function amountsOf(
  primitive: Primitive,
  { set, channel }: { set: number; channel: (typeof tintChannels)[number] },
  count: number,
): Float32Array | null {
  const colours = primitive.getAttribute(`COLOR_${set}`),
    size = colours?.getElementSize() ?? 0,
    at = tintChannels.indexOf(channel)
  if (!colours || at >= size) return null
  const values = floatsOf(colours)
  return Float32Array.from({ length: count }, (_, v) => values[v * size + at]!)
}

/** Noted inputs that are in the maps afterwards. */
const bakedInputs: ReadonlySet<string> = new Set([
  'tint',
  ...Object.values(layerInputs),
  ...Object.values(detailInputs),
])

interface Wiring {
  baked: BakedLook
  maps: Maps
  channel: number
  name: string
  notes: SlotNotes
}

/** Gives the slot its new maps, and takes off what is in them. */
async function wire(
  work: Work,
  slot: Material,
  { baked, maps, channel, name, notes }: Wiring,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const before = [slot.getBaseColorTexture(), slot.getMetallicRoughnessTexture(), slot.getNormalTexture()]
  const beside =
    work.textures.find((t) => before.some((p) => p && t.pictures.includes(p))) ?? work.textures[0] ?? null
  const make = (role: 'basecolor' | 'orm' | 'normal', pixels: Pixels) =>
    addMadeTexture(
      work,
      { stem: `${name}_look_${role}`, pixels, space: role === 'basecolor' ? 'srgb' : 'linear', beside },
      ports,
    )
  const colour = await make('basecolor', baked.colour)
  if (!colour.ok) return colour
  const [, , , alpha] = slot.getBaseColorFactor()
  slot.setBaseColorTexture(colour.value.pictures[0]!).setBaseColorFactor([1, 1, 1, alpha])
  const place = (info: TextureInfo): void =>
    placeTexture(work.document!, info, { tiling: [1, 1], offset: [0, 0], turn: 0, channel })
  place(slot.getBaseColorTextureInfo()!)
  if (
    notes.layer &&
    (notes.layer.roughness !== null || notes.layer.metallic !== null || maps.layerRoughness)
  ) {
    const packed = await make('orm', baked.packed)
    if (!packed.ok) return packed
    const picture = packed.value.pictures[0]!,
      hadOcclusion = before[1] !== null && slot.getOcclusionTexture() === before[1]
    slot.setMetallicRoughnessTexture(picture).setRoughnessFactor(1).setMetallicFactor(1)
    place(slot.getMetallicRoughnessTextureInfo()!)
    if (hadOcclusion) {
      slot.setOcclusionTexture(picture)
      place(slot.getOcclusionTextureInfo()!)
    }
  }
  if (maps.layerNormal || maps.detailNormal) {
    const normal = await make('normal', baked.normal)
    if (!normal.ok) return normal
    slot.setNormalTexture(normal.value.pictures[0]!).setNormalScale(1)
    place(slot.getNormalTextureInfo()!)
  }
  const inputs = Object.fromEntries(
    Object.entries(notes.inputs ?? {}).filter(([input]) => !bakedInputs.has(input)),
  )
  noteOfSlot(slot, {
    layer: undefined,
    detail: undefined,
    tints: undefined,
    inputs: Object.keys(inputs).length > 0 ? inputs : undefined,
  })
  const others = work
    .document!.getRoot()
    .listMaterials()
    .filter((m) => m !== slot)
    .flatMap((m) => Object.values(slotNotes(m).inputs ?? {}))
  for (const texture of work.textures)
    if (!isUsed(texture) && wasFed(texture, notes, before) && !isNamed(texture, others)) texture.spent = true
  return good(true)
}

/** Whether a texture fed what was baked. */
const wasFed = (
  texture: WorkTexture,
  { inputs }: SlotNotes,
  before: readonly ReturnType<Material['getBaseColorTexture']>[],
): boolean =>
  before.some((p) => p && texture.pictures.includes(p)) ||
  isNamed(
    texture,
    [...bakedInputs].map((input) => inputs?.[input]),
  )

const isNamed = ({ name, path }: WorkTexture, names: readonly (string | undefined)[]): boolean =>
  names.some((one) => one === name || (path !== null && one === path))
