import type { Material, Texture } from '@gltf-transform/core'
import * as z from 'zod'
import { CHANNEL_ORDER, good, textureRoles, type Outcome, type TextureRole } from '@stern-gate/contract'
import type { ChannelName } from '../../image/packChannels'
import { inputWords } from '../../rulebook/inputWords'
import { layoutWords } from '../../rulebook/layoutLetters'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'
import { textureOf } from '../textureSteps'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { pictureOf } from '../madeTextures'
import type { Work } from '../work'
import { slotCalled } from './slotCalled'
import { textureOption } from './slotOptions'
import { blendIn, packMaps, type FedTexture } from './feedMaps'

const optionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  basecolor: textureOption('texture for the base colour; null: as it is'),
  tinted: z
    .boolean()
    .default(false)
    .describe('the slot’s own colour goes on over a first base colour, and is not taken for its stand-in'),
  normal: textureOption('normal map'),
  orm: textureOption('packed map: occlusion, roughness and metallic'),
  layout: z
    .string()
    .regex(CHANNEL_ORDER)
    .default('orm')
    .describe(`order of the packed map’s channels: ${layoutWords}`),
  occlusion: textureOption('occlusion'),
  roughness: textureOption('roughness'),
  gloss: z
    .boolean()
    .default(false)
    .describe('the roughness map carries gloss: it is taken the other way round'),
  metallic: textureOption('metallic'),
  emissive: textureOption('emissive colour'),
  opacity: textureOption('opacity: it becomes the alpha of the base colour'),
  height: textureOption('height'),
  tint: textureOption('mask'),
  channels: z
    .string()
    .regex(/^(([a-z]+):[RGBA]( |$))*$/)
    .default('')
    .describe('channels other than the first, such as roughness:G opacity:A'),
})
type FeedOptions = z.infer<typeof optionsSchema>

export const feed = defineRemedy({
  id: 'slots/feed',
  version: 1,
  station: 'slots',
  needs: 'texels',
  title: 'Give textures to a slot',
  words: (options) =>
    `${options.slot}: ${givenRoles(options)
      .map((role) => inputWords[role])
      .join(', ')}`,
  about:
    'Wires textures of the asset to the inputs of a slot. ' +
    'Single maps of occlusion, roughness and metallic are packed into one, a packed map of another order is repacked, ' +
    'opacity goes into the alpha of the base colour; other textures stay byte for byte. ' +
    'Height and mask, for which glTF has no input, stand in the extras of the slot.',
  options: optionsSchema,
  async apply(work, options, ports) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return found
    const slot = found.value
    const given = givenTextures(work, options)
    if (!given.ok) return given
    if (given.value.size === 0) return good({ changed: false, said: `nothing is given to ${options.slot}` })
    const fed = await feedSlot(work, slot, given.value, options, ports)
    if (!fed.ok) return fed
    const inputs = [...given.value].map(([role, { texture }]) => `${inputWords[role]} ${texture.name}`)
    return good({ changed: true, said: `${options.slot} has ${inputs.join(', ')}` })
  },
})

const givenRoles = (options: FeedOptions): TextureRole[] =>
  textureRoles.filter((role) => options[role] !== null)

type Given = ReadonlyMap<TextureRole, FedTexture>

function givenTextures(work: Work, options: FeedOptions): Outcome<Given> {
  const given = new Map<TextureRole, FedTexture>()
  for (const role of givenRoles(options)) {
    const found = textureOf(work, options[role]!)
    if (!found.ok) return found
    given.set(role, {
      texture: found.value,
      channel: (new RegExp(`\\b${role}:([RGBA])`).exec(options.channels)?.[1] ?? 'R') as ChannelName,
      inverted: role === 'roughness' && options.gloss,
    })
  }
  return good(given)
}

async function feedSlot(
  work: Work,
  slot: Material,
  given: Given,
  { layout, tinted }: FeedOptions,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const wired = new Map<TextureRole, Texture>()
  for (const role of ['basecolor', 'normal', 'emissive', 'height', 'tint'] as const) {
    const texture = given.get(role)?.texture
    const picture = texture ? await pictureOf(work, texture, ports) : null
    if (picture && !picture.ok) return picture
    if (picture) wired.set(role, picture.value)
  }
  const base = wired.get('basecolor'),
    normal = wired.get('normal'),
    emissive = wired.get('emissive')
  if (base) feedBase(slot, base, tinted)
  if (normal) slot.setNormalTexture(normal)
  if (emissive) feedEmissive(slot, emissive)
  const packed = await packMaps(work, slot, given, layout, ports)
  if (!packed.ok) return packed
  const opacity = given.get('opacity')
  if (opacity) {
    const blended = await blendIn(work, slot, opacity, ports)
    if (!blended.ok) return blended
  }
  for (const role of ['height', 'tint'] as const)
    if (wired.has(role)) noteInput(slot, role, given.get(role)!.texture.name)
  return good(true)
}

/** Without a texture a factor is the colour itself; with the first one it would darken it. */
function feedBase(slot: Material, base: Texture, tinted: boolean): void {
  if (!tinted && !slot.getBaseColorTexture()) slot.setBaseColorFactor([1, 1, 1, slot.getBaseColorFactor()[3]])
  slot.setBaseColorTexture(base)
}

/** A factor of nought would keep it dark. */
function feedEmissive(slot: Material, emissive: Texture): void {
  if (slot.getEmissiveFactor().every((v) => v === 0)) slot.setEmissiveFactor([1, 1, 1])
  slot.setEmissiveTexture(emissive)
}

/** Notes what glTF has no input for, by the texture's name; as it is called when it is written, it stands there then. */
const noteInput = (slot: Material, role: 'height' | 'tint', name: string): boolean =>
  noteOfSlot(slot, { inputs: { ...slotNotes(slot).inputs, [role]: name } })
