import type { Document, Material, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { chooseSlot, variantChoices } from '../../scene/variants'
import { linearOfHex } from '../../surfaces/hexColour'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { pictureOf } from '../madeTextures'
import { textureOf } from '../textureSteps'
import type { Work } from '../work'
import { slotCalled } from './slotCalled'
import { colourOption, textureOption } from './slotOptions'

const optionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  variant: z.string().min(1).max(60).describe('name of the choice, such as wet'),
  basecolor: textureOption('its base colour; null: as the slot has it'),
  normal: textureOption('its normal map; null: as the slot has it'),
  orm: textureOption('its packed map in glTF’s order; null: as the slot has it'),
  emissive: textureOption('its emissive map; null: as the slot has it'),
  colour: colourOption('colour that its base colour is multiplied by; null: as the slot has it'),
  alike: z
    .boolean()
    .default(false)
    .describe('also for all other slots that wear the same base colour texture'),
})
type VariantOptions = z.infer<typeof optionsSchema>

/** Gives a slot another choice that shares the rest, as KHR_materials_variants. */
export const variant = defineRemedy({
  id: 'slots/variant',
  version: 1,
  station: 'slots',
  needs: 'texels',
  title: 'Add a variant of a slot',
  words: ({ slot, variant: name }) => `${slot}: ${name}`,
  about:
    'Adds a choice to a slot: another base colour, normal map, packed map or colour under a name, the rest shared. ' +
    'It is written as KHR_materials_variants; what the file shows by itself stays. ' +
    'A choice of the same name is set anew.',
  options: optionsSchema,
  async apply(work, options, ports) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return found
    const base = found.value.getBaseColorTexture()
    const slots = work
      .document!.getRoot()
      .listMaterials()
      .filter((s) => s === found.value || (options.alike && base && s.getBaseColorTexture() === base))
      .map((slot) => ({ slot, users: usersOf(work.document!, slot) }))
      .filter(({ users }) => users.length > 0)
    if (!slots.some(({ slot }) => slot === found.value))
      return bad(
        'remedy/not-applicable',
        `No triangle uses slot ${options.slot} by itself.`,
        'Give the variant to the slot that it stands in for.',
        { slot: options.slot },
      )
    for (const { slot, users } of slots) {
      const chosen = chosenSlot(work.document!, slot, options)
      const wired = await wire(work, chosen, options, ports)
      if (!wired.ok) return wired
      chooseSlot(work.document!, users, options.variant, chosen)
    }
    const said = slots.map(({ slot }) => slot.getName()).join(', ')
    return good({ changed: true, said: `${said} can be ${options.variant}` })
  },
})

const usersOf = (document: Document, slot: Material): Primitive[] =>
  document
    .getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives())
    .filter((p) => p.getMaterial() === slot)

/** The slot that stands in under the variant: the one that is there, or a copy of its own. */
function chosenSlot(document: Document, slot: Material, { variant: name }: VariantOptions): Material {
  const choices = variantChoices(document)
  const there = choices.find((c) => c.variant === name && c.primitive.getMaterial() === slot)?.slot
  const isShared = choices.some((c) => c.slot === there && c.variant !== name)
  return there && !isShared ? there : slot.clone().setName(`${slot.getName()}_${name}`)
}

async function wire(
  work: Work,
  slot: Material,
  options: VariantOptions,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  for (const input of ['basecolor', 'normal', 'orm', 'emissive'] as const) {
    if (options[input] === null) continue
    const found = textureOf(work, options[input])
    if (!found.ok) return found
    const picture = await pictureOf(work, found.value, ports)
    if (!picture.ok) return picture
    if (input === 'basecolor') slot.setBaseColorTexture(picture.value)
    else if (input === 'normal') slot.setNormalTexture(picture.value)
    else if (input === 'orm')
      slot.setMetallicRoughnessTexture(picture.value).setOcclusionTexture(picture.value)
    else slot.setEmissiveTexture(picture.value)
  }
  if (options.colour) slot.setBaseColorFactor([...linearOfHex(options.colour), slot.getBaseColorFactor()[3]])
  return good(true)
}
