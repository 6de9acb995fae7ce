import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { carriesName } from '../../subject/renameFollows'
import { nodePaths } from '../../scene/nodePaths'
import { slotNames } from '../../scene/slotNames'
import { defineRemedy, type RemedyResult } from '../defineRemedy'
import { findTexture, type Work } from '../work'

const safeName = z
  .string()
  .min(1)
  .max(120)
  .regex(/^[^/\\:*?"<>|]+$/, 'a name holds no separators')
  .refine(
    (n) => !/^\.|[. ]$|\p{Cc}/u.test(n),
    'a name neither begins with a dot nor ends with a dot or space',
  )

const options = z.strictObject({
  what: z.enum(['asset', 'node', 'texture', 'slot', 'clip']).describe('kind of thing'),
  from: z.string().min(1).describe('its name now; textures with their extension'),
  to: safeName.describe('its new name, without extension'),
})
type RenameOptions = z.infer<typeof options>

export const rename = defineRemedy({
  id: 'names/rename',
  version: 1,
  station: 'names',
  needs: 'file',
  title: 'Rename',
  words: ({ to }) => `Name → ${to}`,
  about:
    'Gives one thing a new name; every reference to it follows. Renaming the asset takes its levels, ' +
    'collision meshes and textures along where they carry its name.',
  options,
  apply: async (work, o) => renamers[o.what](work, o),
})

const done = (o: RenameOptions, along = 0): Outcome<RemedyResult> =>
  good({ changed: true, said: `${o.from} is now ${o.to}${along ? `, ${along} more names followed` : ''}` })
const nothing = (o: RenameOptions): Outcome<RemedyResult> =>
  good({ changed: false, said: `no ${o.what} is called ${o.from}` })

const renamers: Record<RenameOptions['what'], (work: Work, o: RenameOptions) => Outcome<RemedyResult>> = {
  asset: (work, o) => {
    if (work.name !== o.from) return nothing(o)
    if (work.path !== null) work.path = withStem(work.path, o.to)
    work.name = o.to
    return done(o, renameAlong(work, o))
  },
  node: (work, o) => {
    const nodes = (work.document?.getRoot().listNodes() ?? []).filter((n) => n.getName() === o.from)
    for (const node of nodes) node.setName(o.to)
    return nodes.length > 0 ? done(o) : nothing(o)
  },
  texture: (work, o) => {
    const texture = findTexture(work, o.from)
    if (!texture) return nothing(o)
    return renameTexture(work, o.from, o.to)
  },
  slot: (work, o) => {
    const slot = work.document
      ? [...slotNames(work.document)].find(([, name]) => name === o.from)?.[0]
      : undefined
    if (!slot) return nothing(o)
    slot.setName(o.to)
    return done(o)
  },
  clip: (work, o) => {
    const clip = work.document
      ?.getRoot()
      .listAnimations()
      .find((c) => c.getName() === o.from)
    if (!clip) return nothing(o)
    clip.setName(o.to)
    return done(o)
  },
}

function renameTexture(work: Work, from: string, to: string): Outcome<RemedyResult> {
  const texture = findTexture(work, from)!
  const name = to + (/\.[^.]+$/.exec(texture.name.replace(/#\d+$/, ''))?.[0] ?? '')
  if (name === texture.name) return good({ changed: false, said: `it is called ${name} already` })
  if (work.textures.some((t) => t !== texture && t.name.toLowerCase() === name.toLowerCase()))
    return bad(
      'remedy/name-taken',
      `Another texture of the asset is called ${name}.`,
      'Choose another name.',
      { part: name },
    )
  texture.aliases.push(texture.name)
  texture.name = name
  if (texture.path !== null) texture.path = texture.path.replace(/[^/]*$/, name)
  for (const picture of texture.pictures) picture.setName(to)
  return good({ changed: true, said: `${from} is now ${name}` })
}

/** Levels, collision meshes and textures that carry the asset's old name as their beginning. */
function renameAlong(work: Work, o: RenameOptions): number {
  const carries = (name: string) => carriesName(name, o.from)
  let count = 0
  if (work.document)
    for (const node of nodePaths(work.document).keys())
      for (const thing of [node, node.getMesh()])
        if (thing && carries(thing.getName())) {
          thing.setName(o.to + thing.getName().slice(o.from.length))
          count++
        }
  for (const texture of [...work.textures]) {
    const stem = texture.name.replace(/\.[^.]+$/, '')
    if (carries(stem) && renameTexture(work, texture.name, o.to + stem.slice(o.from.length)).ok) count++
  }
  return count
}

const withStem = (path: string, stem: string): string =>
  path.replace(/[^/]*?(\.[^./]+)?$/, (_, extension: string | undefined) => stem + (extension ?? ''))
