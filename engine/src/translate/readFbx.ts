import type { Group } from 'three'
import { FBXLoader } from 'three/examples/jsm/loaders/FBXLoader.js'
import { bad, good, type Outcome, type UpAxis } from '@stern-gate/contract'
import { buildContainer, type GltfContainer } from '@stern-gate/core'
import { passedOver } from './passedOver'
import { hearing, innerPictures, keepingPaths } from './quietLoading'
import { translateScene } from './translateScene'

/**
 * Reads FBX, binary and text, from version 7.0 on. Faults: mesh/nothing-drawn, and mesh/bad-structure for
 * what the library refuses.
 */
export async function readFbx(bytes: Uint8Array): Promise<Outcome<GltfContainer>> {
  const { group, said } = parse(joinedPictures(bytes))
  const declaresAxis = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).includes('UpAxis')
  // The library turns its outermost object when the file has Z up; its matrix still says what the file said
  const upAxis: UpAxis | null = !declaresAxis
    ? null
    : Math.abs(group.rotation.x + Math.PI / 2) < 1e-9 && Math.abs(group.matrix.elements[5]!) > 1e-9
      ? 'z'
      : 'y'
  const factor = group.userData['unitScaleFactor'] as number | undefined
  const unitMetres = factor === undefined ? null : factor / 100
  // Centimetres are the unit of the format where nothing is said
  const scene = translateScene(group.name === '' ? group.children : [group], group.animations, {
    metres: unitMetres ?? 0.01,
    upAxis: upAxis ?? 'y',
  })
  if (!scene.drawn)
    return bad('mesh/nothing-drawn', 'The FBX holds no triangle.', 'Export it with its meshes.')
  return good(
    buildContainer({
      format: 'fbx',
      generator: generatorOf(bytes),
      unitMetres,
      upAxis,
      companions: [],
      lost: [...scene.lost, ...passedOver(said)],
      nodes: scene.nodes,
      slots: scene.slots,
      skins: scene.skins,
      clips: scene.clips,
      pictures: await innerPictures(scene.picturePaths),
    }),
  )
}

/** The name that the writing program gives itself. */
function generatorOf(bytes: Uint8Array): string {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.byteLength, 8192)).toString(
    'latin1',
  )
  return /Creator(?::\s*"|S[\s\S]{4})([\x20-\x21\x23-\x7e]{3,120})/.exec(text)?.[1]?.trim() ?? ''
}

/**
 * Parses by the library. It cannot put some clips together, as of a layer in which nothing moves, and then
 * nothing of the file comes: what fails is parsed once more with its clips hidden.
 */
function parse(bytes: Uint8Array): { group: Group; said: string[] } {
  const once = (from: Uint8Array) =>
    hearing(() => withWindow(() => keepingPaths(() => new FBXLoader().parse(from.slice().buffer, ''))))
  try {
    const { value, said } = once(bytes)
    return { group: value, said }
  } catch (error) {
    const hidden = withoutClips(bytes)
    if (!hidden) throw error
    const { value, said } = once(hidden)
    return { group: value, said: [...said, 'clips'] }
  }
}

/** The library asks the page how large it is when a file holds a camera. */
function withWindow<T>(run: () => T): T {
  const place = globalThis as { window?: unknown },
    before = place.window
  place.window = { innerWidth: 1, innerHeight: 1 }
  try {
    return run()
  } finally {
    if (before === undefined) delete place.window
    else place.window = before
  }
}

/** The same file with its stacks of clips under a name that nothing reads; null when it has none. */
function withoutClips(bytes: Uint8Array): Uint8Array | null {
  const copy = Buffer.from(bytes)
  let found = false
  for (let at = copy.indexOf('AnimationStack'); at >= 0; at = copy.indexOf('AnimationStack', at + 1)) {
    copy.write('AnimationNone_', at, 'latin1')
    found = true
  }
  return found ? new Uint8Array(copy.buffer, copy.byteOffset, copy.byteLength) : null
}

/** Text files cut an embedded picture into quoted lines; the library reads the first of them alone. */
function joinedPictures(bytes: Uint8Array): Uint8Array {
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(bytes.byteLength, 64)).toString('latin1')
  if (head.startsWith('Kaydara FBX Binary')) return bytes
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('latin1')
  if (!/Content:\s*,/.test(text)) return bytes
  const joined = text.replace(
    /(Content:\s*,)\s*("[A-Za-z0-9+/=\s]*"(?:\s*,?\s*"[A-Za-z0-9+/=\s]*")*)/g,
    (_, start: string, pieces: string) => `${start}\n\t\t"${pieces.replace(/["\s,]/g, '')}"`,
  )
  return new Uint8Array(Buffer.from(joined, 'latin1'))
}
