import * as z from 'zod'
import { good, type Outcome } from '@stern-gate/contract'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { isEmpty } from '../../scene/strays'
import { defineRemedy, type RemedyPorts, type RemedyResult } from '../defineRemedy'
import { dropStrays } from './dropStrays'
import { dropUnusedSlots } from '../slots/dropUnusedSlots'
import { layOutUvs, mappedChannels } from '../uvs/layOutUvs'
import { rescale } from '../scale/rescale'
import { takeOut } from './takeOut'
import { turnAxes } from '../scale/turnAxes'
import type { Work } from '../work'

/** Metres of one unit of the numbers in a file. */
const units = {
  metre: 1,
  decimetre: 0.1,
  centimetre: 0.01,
  millimetre: 0.001,
  inch: 0.0254,
  foot: 0.3048,
} as const
type Unit = keyof typeof units

const options = z.strictObject({
  unit: z
    .enum(['as read', ...(Object.keys(units) as [Unit, ...Unit[]])])
    .default('as read')
    .describe('what one unit of the numbers is, where the file does not say it or says it wrongly'),
  up: z
    .enum(['+Y', '+Z', '-Z', '+X', '-X', '-Y'])
    .default('+Y')
    .describe('axis that points up in the file as it was read'),
  front: z.enum(['+Z', '-Z', '+X', '-X']).default('+Z').describe('axis that is the front once it stands'),
  strays: z.boolean().default(true).describe('lights and empty nodes are left out'),
  cameras: z.boolean().default(true).describe('cameras come along, as views of the asset'),
  levels: z.enum(['all', 'finest']).default('all').describe('which levels of detail come along'),
  clips: z.boolean().default(true).describe('clips come along'),
  colours: z.boolean().default(true).describe('vertex colours come along'),
  slots: z.enum(['all', 'used']).default('used').describe('which slots come along'),
  lightmap: z
    .enum(['authored', 'authored or laid out', 'laid out', 'none'])
    .default('authored')
    .describe(
      'UV1 (2nd), for baked light: kept as it was authored, laid out where none was, always laid out anew, or left out',
    ),
  textures: z
    .enum(['as they came', 'as files'])
    .default('as files')
    .describe('textures inside the mesh file: left there, or taken out'),
})
type IntakeOptions = z.infer<typeof options>

export const intake = defineRemedy({
  id: 'files/intake',
  version: 2,
  station: 'files',
  needs: 'mesh',
  title: 'Take in',
  words: ({ unit }) => `Take in${unit === 'as read' ? '' : `: ${unit}`}`,
  about:
    'How a kind of source is taken in: unit, axes, what is left out, what becomes of its textures. ' +
    'It stands first in a recipe, so that all other steps see what it made.',
  options,
  async apply(work, o, ports) {
    if (!work.document) return good({ changed: false, said: 'a texture set is taken in as it came' })
    const said: string[] = []
    for (const part of parts) {
      const done = await part(work, o, ports)
      if (!done.ok) return done
      if (done.value.changed) said.push(done.value.said)
    }
    return good({ changed: said.length > 0, said: said.join('; ') || 'it came just so' })
  },
})

type Part = (work: Work, o: IntakeOptions, ports: RemedyPorts) => Promise<Outcome<RemedyResult>>
const nothing: RemedyResult = { changed: false, said: '' }
const did = (changed: boolean, said: string) => good<RemedyResult>({ changed, said })

const parts: readonly Part[] = [
  async (work, { unit }, ports) =>
    unit === 'as read' ? good(nothing) : rescale.apply(work, { factor: units[unit] }, ports),
  async (work, { up, front }, ports) => turnAxes.apply(work, { up, front, base: false }, ports),
  async (work, { strays }, ports) =>
    strays ? dropStrays.apply(work, { empties: true }, ports) : good(nothing),
  async (work, { cameras }) => (cameras ? good(nothing) : did(dropCameras(work) > 0, 'cameras left out')),
  async (work, { levels }) =>
    levels === 'finest' ? did(dropLevels(work) > 0, 'levels below the finest left out') : good(nothing),
  async (work, { clips }) => (clips ? good(nothing) : did(dropClips(work) > 0, 'clips left out')),
  async (work, { colours }) =>
    colours ? good(nothing) : did(dropAttributes(work, /^COLOR_\d+$/) > 0, 'vertex colours left out'),
  async (work, { slots }, ports) =>
    slots === 'used' ? dropUnusedSlots.apply(work, { slot: null }, ports) : good(nothing),
  async (work, { lightmap }, ports) =>
    lightmap.endsWith('laid out')
      ? layOutUvs.apply(
          work,
          { node: null, channel: 1, size: 256, gap: 2, keep: lightmap !== 'laid out' },
          ports,
        )
      : good(nothing),
  async (work, { lightmap }) =>
    lightmap === 'none' ? did(dropLightmaps(work) > 0, 'the second UV channel left out') : good(nothing),
  async (work, { textures }, ports) => (textures === 'as files' ? takeAllOut(work, ports) : good(nothing)),
]

function dropCameras(work: Work): number {
  const root = work.document!.getRoot(),
    cameras = root.listCameras()
  const held = new Set(root.listNodes().filter((n) => n.getCamera()))
  for (const camera of cameras) camera.dispose()
  for (const node of root.listNodes()) if (held.has(node) && isEmpty(node)) node.dispose()
  return cameras.length
}

/** Takes every level but the finest out, with its mesh where nothing else shows it. */
function dropLevels(work: Work): number {
  const { levels } = partsOfDocument(work.document!)
  const coarser = [...levels.values()].slice(1).flat()
  for (const { node } of coarser) {
    const mesh = node.getMesh()
    node.setMesh(null)
    if (mesh && !mesh.listParents().some((p) => p.propertyType === 'Node')) {
      for (const primitive of mesh.listPrimitives()) primitive.dispose()
      mesh.dispose()
    }
    if (isEmpty(node)) node.dispose()
  }
  return coarser.length
}

function dropClips(work: Work): number {
  const clips = work.document!.getRoot().listAnimations()
  for (const clip of clips) {
    for (const sampler of clip.listSamplers()) sampler.dispose()
    for (const channel of clip.listChannels()) channel.dispose()
    clip.dispose()
  }
  return clips.length
}

function dropAttributes(work: Work, which: RegExp, keep: ReadonlySet<string> = new Set()): number {
  let dropped = 0
  for (const primitive of work
    .document!.getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives()))
    for (const semantic of primitive.listSemantics())
      if (which.test(semantic) && !keep.has(semantic)) {
        primitive.setAttribute(semantic, null)
        dropped++
      }
  return dropped
}

/** UV channels above the first that no texture of the mesh lies on. */
function dropLightmaps(work: Work): number {
  const mapped = new Set(
    work
      .document!.getRoot()
      .listMeshes()
      .flatMap((m) => m.listPrimitives())
      .flatMap((p) => [...mappedChannels(p)])
      .map((c) => `TEXCOORD_${c}`),
  )
  return dropAttributes(work, /^TEXCOORD_[1-9]\d*$/, mapped)
}

async function takeAllOut(work: Work, ports: RemedyPorts): Promise<Outcome<RemedyResult>> {
  let taken = 0
  for (const texture of work.textures.filter((t) => t.path === null)) {
    const done = await takeOut.apply(work, { texture: texture.name, folder: 'textures' }, ports)
    // A name that is taken already leaves the picture where it is: files/embedded-texture speaks of it
    if (done.ok && done.value.changed) taken++
  }
  return did(taken > 0, `${taken} ${taken === 1 ? 'texture' : 'textures'} taken out`)
}
