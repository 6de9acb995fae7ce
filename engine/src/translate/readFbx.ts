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
  const { value: group, said } = hearing(() =>
    keepingPaths(() => new FBXLoader().parse(bytes.slice().buffer, '')),
  )
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
