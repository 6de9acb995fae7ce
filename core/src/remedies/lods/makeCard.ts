import type { Document, Material, Node, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import type { Pixels } from '../../image/pixels'
import { joinBounds, pointBounds } from '../../geometry/pointBounds'
import { placeMesh } from '../../measure/placedMesh'
import { partsOfDocument, type DocumentNode } from '../../measure/partsOfDocument'
import { bakeCard, cardAxes, type CardPiece, type CardView } from '../../picture/bakeCard'
import { baseName } from '../../scene/meshParts'
import { shownScene } from '../../scene/nodePaths'
import { CARD, noteOfSlot } from '../../scene/slotNotes'
import { channelOf, placementOf } from '../../scene/texturePlacement'
import { worldNormals } from '../../scene/worldNormals'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { addMadeTexture, decodedTexture } from '../madeTextures'
import type { Work, WorkTexture } from '../work'

export const makeCard = defineRemedy({
  id: 'lods/make-card',
  version: 1,
  isSlow: true,
  station: 'lods',
  needs: 'texels',
  title: 'Make a card as the last level',
  words: ({ cards }) => `${cards} crossed ${cards === 1 ? 'card' : 'cards'} as the last level`,
  about:
    'Draws the finest level from several sides onto upright cards that cross in its middle, and adds them as one more ' +
    'level: two triangles each, with a slot and two textures of their own – base colour with alpha, and normals. ' +
    'Light is not drawn in, nor are normal maps, second layers and turns of textures. For plants and what is only seen far away.',
  options: z.strictObject({
    cards: z.int().min(1).max(4).default(3).describe('how many cards cross'),
    texels: z.int().min(32).max(1024).default(256).describe('texels of the side of one card'),
  }),
  async apply(work, { cards, texels }, ports) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no levels' })
    const parts = partsOfDocument(work.document)
    if (parts.finest.length === 0)
      return bad('remedy/not-applicable', 'Nothing is drawn.', 'A card needs something to show.')
    if (parts.finest.some(({ node }) => node.getSkin()))
      return bad(
        'remedy/not-applicable',
        'It bends with bones: a card would stand still.',
        'Make levels by taking triangles out.',
      )
    const pieces = await piecesOf(work, parts.finest, ports)
    if (!pieces.ok) return pieces
    // What is flat is seen from its edge by some: a card without a width shows nothing
    const views = upright(viewsOf(pieces.value, cards))
    if (views.length === 0)
      return bad('remedy/not-applicable', 'Nothing of it stands upright.', 'A card shows what has a height.')
    const stem = baseName(parts.finest[0]!.node.getName()) || work.name
    const slot = await cardSlot(work, { stem, texels, pieces: pieces.value, views }, ports)
    if (!slot.ok) return slot
    const level = parts.levels.size
    addCards(work.document, slot.value, views, `${stem}_lod${level}`)
    return good({
      changed: true,
      said: `LOD ${level}: ${views.length} ${views.length === 1 ? 'card' : 'cards'}, ${views.length * 2} triangles`,
    })
  },
})

/** The finest level in the world, with the pictures of its base colours. */
async function piecesOf(
  work: Work,
  finest: readonly DocumentNode[],
  ports: RemedyPorts,
): Promise<Outcome<CardPiece[]>> {
  const pictures = new Map<WorkTexture, Pixels>(),
    pieces: CardPiece[] = []
  for (const { node } of finest)
    for (const { primitive, view, world } of placeMesh(node, () => null).primitives) {
      if (view.indices.length === 0) continue
      const slot = primitive.getMaterial(),
        texture = textureOf(work, slot)
      if (texture && !pictures.has(texture)) {
        const decoded = await decodedTexture(texture, ports)
        if (!decoded.ok) return decoded
        pictures.set(texture, decoded.value)
      }
      pieces.push({
        positions: world,
        normals: worldNormals(node, primitive),
        uvs: uvsOf(slot, view.uvs),
        indices: view.indices,
        factor: slot?.getBaseColorFactor() ?? [1, 1, 1, 1],
        picture: texture ? pictures.get(texture)! : null,
        cutoff: cutoffOf(slot),
      })
    }
  return good(pieces)
}

/** The UVs that the base colour lies on, tiled and moved as it is; a turned one is taken as if it were not. */
function uvsOf(slot: Material | null, channels: readonly (Float32Array | null)[]): Float32Array | null {
  const info = slot?.getBaseColorTextureInfo() ?? null,
    own = channels[info ? channelOf(info) : 0] ?? null,
    placed = info && placementOf(info)
  if (!own || !placed) return own
  return own.map((v, k) => v * placed.tiling[k % 2]! + placed.offset[k % 2]!)
}

const textureOf = (work: Work, slot: Material | null): WorkTexture | undefined => {
  const picture = slot?.getBaseColorTexture()
  return picture ? work.textures.find((t) => t.pictures.includes(picture)) : undefined
}

/** What is blended is drawn from half of its alpha on: a card has no half tones. */
const cutoffOf = (slot: Material | null): number =>
  slot?.getAlphaMode() === 'MASK' ? slot.getAlphaCutoff() : slot?.getAlphaMode() === 'BLEND' ? 0.5 : 0

/** Views around the vertical through the middle, each as wide as what it shows. */
function viewsOf(pieces: readonly CardPiece[], cards: number): CardView[] {
  const bounds = joinBounds(pieces.map((p) => pointBounds(p.positions)))
  if (!bounds) return []
  const { min, max } = bounds,
    middle = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2] as const
  return Array.from({ length: cards }, (_, n) => {
    const azimuth = (n * Math.PI) / cards,
      { right } = cardAxes(azimuth)
    let left = Infinity,
      end = -Infinity
    for (const { positions: p } of pieces)
      for (let v = 0; v < p.length; v += 3) {
        const along = (p[v]! - middle[0]) * right[0] + (p[v + 2]! - middle[1]) * right[2]
        // What is no number compares as neither
        if (along < left) left = along
        if (along > end) end = along
      }
    return { left, right: end, bottom: min[1], top: max[1], middle, azimuth }
  })
}

/** Less than this share of the largest side is none: what is left of rounding. */
const NO_SIDE = 1e-6

/** Views of cards that have a width and a height. */
function upright(views: readonly CardView[]): CardView[] {
  const largest = Math.max(...views.map((v) => Math.max(v.right - v.left, v.top - v.bottom)))
  return views.filter((v) => Math.min(v.right - v.left, v.top - v.bottom) > largest * NO_SIDE)
}

/** Cells of the sheet of so many cards, across and down: its sides stay powers of two. */
const gridOf = (cards: number): [number, number] => [cards > 1 ? 2 : 1, cards > 2 ? 2 : 1]

interface CardPlan {
  stem: string
  texels: number
  pieces: readonly CardPiece[]
  views: readonly CardView[]
}

/** A cutout slot that shows all cards from one sheet. */
async function cardSlot(
  work: Work,
  { stem, texels, pieces, views }: CardPlan,
  ports: RemedyPorts,
): Promise<Outcome<Material>> {
  const [across, down] = gridOf(views.length),
    width = across * texels,
    height = down * texels
  const colour = sheet(width, height, 4),
    normal = sheet(width, height, 3)
  const cards = views.map((view) => bakeCard(pieces, view, texels, texels))
  for (let n = 0; n < across * down; n++) {
    // A cell that is over shows the first card once more: nothing else comes in beside the others
    const baked = cards[n] ?? cards[0]!
    const x = (n % across) * texels,
      y = Math.floor(n / across) * texels
    layOn(colour, baked.colour, x, y, texels)
    layOn(normal, baked.normal, x, y, texels)
  }
  const beside = work.textures.find((t) => t.path !== null) ?? null
  const base = await addMadeTexture(
    work,
    { stem: `${stem}_card_basecolor`, pixels: colour, space: 'srgb', beside },
    ports,
  )
  if (!base.ok) return base
  const bumps = await addMadeTexture(
    work,
    { stem: `${stem}_card_normal`, pixels: normal, space: 'linear', beside },
    ports,
  )
  if (!bumps.ok) return bumps
  const slot = work
    .document!.createMaterial(slotName(work.document!, stem))
    .setBaseColorTexture(base.value.pictures[0]!)
    .setNormalTexture(bumps.value.pictures[0]!)
    .setAlphaMode('MASK')
    .setAlphaCutoff(0.5)
    .setDoubleSided(true)
    .setMetallicFactor(0)
    .setRoughnessFactor(0.9)
  noteOfSlot(slot, { surface: CARD })
  return good(slot)
}

/** As the slots of the mesh are called, with `card` for their last part. */
function slotName(document: Document, stem: string): string {
  const like = document.getRoot().listMaterials()[0]?.getName() ?? ''
  const ending = /([-_ .])[^-_ .]+$/.exec(like)
  return ending ? `${like.slice(0, ending.index)}${ending[1]}card` : `${stem.replaceAll('_', '-')}-card`
}

const sheet = (width: number, height: number, channels: 3 | 4): Pixels => ({
  width,
  height,
  channels,
  depth: 8,
  data: new Uint8Array(width * height * channels),
})

function layOn(onto: Pixels, part: Uint8Array, x: number, y: number, side: number): void {
  const { width, channels, data } = onto
  for (let row = 0; row < side; row++)
    data.set(
      part.subarray(row * side * channels, (row + 1) * side * channels),
      ((y + row) * width + x) * channels,
    )
}

/** One node at the root with a square of two triangles for each card. */
function addCards(document: Document, slot: Material, views: readonly CardView[], name: string): Node {
  const [across, down] = gridOf(views.length)
  const positions: number[] = [],
    normals: number[] = [],
    uvs: number[] = [],
    indices: number[] = []
  for (const [n, { left, right: end, bottom, top, middle, azimuth }] of views.entries()) {
    const { right, front } = cardAxes(azimuth),
      first = positions.length / 3
    const u = (n % across) / across,
      v = Math.floor(n / across) / down
    for (const [along, y, du, dv] of [
      [left, top, 0, 0],
      [left, bottom, 0, 1],
      [end, bottom, 1, 1],
      [end, top, 1, 0],
    ] as const) {
      positions.push(middle[0] + right[0] * along, y, middle[1] + right[2] * along)
      normals.push(...front)
      uvs.push(u + du / across, v + dv / down)
    }
    indices.push(first, first + 1, first + 2, first, first + 2, first + 3)
  }
  const node = document
    .createNode(name)
    .setMesh(
      document
        .createMesh(name)
        .addPrimitive(primitiveOf(document, { positions, normals, uvs, indices }, slot)),
    )
  ;(shownScene(document) ?? document.createScene()).addChild(node)
  return node
}

function primitiveOf(
  document: Document,
  list: Record<'positions' | 'normals' | 'uvs' | 'indices', number[]>,
  slot: Material,
): Primitive {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer()
  const floats = (values: number[], type: 'VEC2' | 'VEC3') =>
    document.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer)
  return document
    .createPrimitive()
    .setAttribute('POSITION', floats(list.positions, 'VEC3'))
    .setAttribute('NORMAL', floats(list.normals, 'VEC3'))
    .setAttribute('TEXCOORD_0', floats(list.uvs, 'VEC2'))
    .setIndices(
      document.createAccessor().setType('SCALAR').setArray(Uint16Array.from(list.indices)).setBuffer(buffer),
    )
    .setMaterial(slot)
}
