import { expect, it } from 'vitest'
import { crateFiles } from '../../fixtures/crateFixture'
import { fixturePorts } from '../../fixtures/pngFixture'
import { primitiveView } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { openWork, type Work } from '../work'
import { dropIdleBones } from './dropIdleBones'

async function crate(): Promise<Work> {
  const files = await crateFiles({ skin: { bones: 3, ends: 2 } })
  const work = await openWork(
    'crate',
    'mesh',
    'props/harbour_crate_a.glb',
    Object.entries(files).map(([path, bytes]) => ({
      path,
      bytes,
      part: path.endsWith('.glb') ? 'mesh' : 'texture',
    })),
  )
  if (!work.ok) throw new Error(work.fault.why)
  return work.value
}
const bones = (work: Work) =>
  work
    .document!.getRoot()
    .listSkins()[0]!
    .listJoints()
    .map((j) => j.getName())
const places = (work: Work) => {
  const node = work
    .document!.getRoot()
    .listNodes()
    .find((n) => n.getSkin())!
  const [p] = node.getMesh()!.listPrimitives()
  return [...worldPositions(node, p!, primitiveView(p!).positions)]
}

it('bones that move nothing go, and every vertex follows the bones that it followed', async () => {
  const work = await crate()
  work
    .document!.getRoot()
    .listNodes()
    .find((n) => n.getName() === 'bone_1')!
    .setTranslation([3, 0, 0])
  const before = places(work)
  expect(bones(work)).toEqual(['bone_0', 'bone_0_end', 'bone_1', 'bone_1_end', 'bone_2'])
  expect(await dropIdleBones.apply(work, { keep: '' }, fixturePorts)).toMatchObject({
    ok: true,
    value: { changed: true, said: '2 bones dropped' },
  })
  expect(bones(work)).toEqual(['bone_0', 'bone_1', 'bone_2'])
  expect(places(work)).toEqual(before)
  expect(await dropIdleBones.apply(work, { keep: '' }, fixturePorts)).toMatchObject({
    value: { changed: false },
  })
})
it('a bone that is named stays, as one does on which something hangs', async () => {
  const work = await crate()
  const root = work.document!.getRoot()
  root
    .listNodes()
    .find((n) => n.getName() === 'bone_1_end')!
    .addChild(work.document!.createNode('grip'))
  await dropIdleBones.apply(work, { keep: 'bone_0_end, other' }, fixturePorts)
  expect(bones(work)).toEqual(['bone_0', 'bone_0_end', 'bone_1', 'bone_1_end', 'bone_2'])
})
