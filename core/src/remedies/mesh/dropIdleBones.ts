import type { Document, Node, Skin } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { idleBones } from '../../scene/idleBones'
import { defineRemedy } from '../defineRemedy'

export const dropIdleBones = defineRemedy({
  id: 'mesh/drop-idle-bones',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Drop bones that move nothing',
  words: () => 'Drop idle bones',
  about:
    'Takes bones out that no vertex follows, that no clip moves and on which nothing hangs, and ' +
    'writes the skins anew; every vertex keeps the bones it follows. A bone on which the game hangs ' +
    'something looks just the same: keep those.',
  options: z.strictObject({
    keep: z.string().max(400).default('').describe('names of bones that stay, with commas between them'),
  }),
  async apply(work, { keep }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no bones' })
    const kept = new Set(
      keep
        .split(',')
        .map((name) => name.trim())
        .filter(Boolean),
    )
    const idle = idleBones(work.document).filter((bone) => !keepsOne(bone, kept))
    if (idle.length === 0) return good({ changed: false, said: 'every bone is needed' })
    const gone = new Set(idle)
    for (const skin of work.document.getRoot().listSkins()) rewriteSkin(work.document, skin, gone)
    // From the ends of the chains inward
    for (const bone of idle.reverse()) bone.dispose()
    return good({ changed: true, said: `${gone.size} ${gone.size === 1 ? 'bone' : 'bones'} dropped` })
  },
})

/** A bone stays with what is below it that stays. */
const keepsOne = (bone: Node, kept: ReadonlySet<string>): boolean =>
  kept.has(bone.getName()) || bone.listChildren().some((child) => keepsOne(child, kept))

/** Leaves joints out of a skin: their matrices go, and numbers in the meshes are counted anew. */
function rewriteSkin(document: Document, skin: Skin, gone: ReadonlySet<Node>): void {
  const joints = skin.listJoints()
  const stays = joints.map((joint) => !gone.has(joint))
  if (stays.every(Boolean)) return
  let next = 0
  const numbers = stays.map((s) => (s ? next++ : 0))
  const matrices = skin.getInverseBindMatrices()
  if (matrices) {
    const values = matrices.getArray()!
    const own = Float32Array.from(
      stays.flatMap((s, i) => (s ? Array.from(values.subarray(i * 16, i * 16 + 16) as Float32Array) : [])),
    )
    skin.setInverseBindMatrices(
      document.createAccessor().setType('MAT4').setArray(own).setBuffer(matrices.getBuffer()),
    )
  }
  joints.forEach((joint, i) => {
    if (!stays[i]) skin.removeJoint(joint)
  })
  if (skin.getSkeleton() && gone.has(skin.getSkeleton()!)) skin.setSkeleton(null)
  const meshes = new Set(
    document
      .getRoot()
      .listNodes()
      .filter((n) => n.getSkin() === skin)
      .flatMap((n) => n.getMesh() ?? []),
  )
  for (const primitive of [...meshes].flatMap((m) => m.listPrimitives()))
    for (let n = 0; primitive.getAttribute(`JOINTS_${n}`); n++) {
      const accessor = primitive.getAttribute(`JOINTS_${n}`)!
      const own = Uint16Array.from(accessor.getArray()!, (j) => numbers[Number(j)] ?? 0)
      primitive.setAttribute(`JOINTS_${n}`, accessor.clone().setNormalized(false).setArray(own))
    }
}
