import { Document } from '@gltf-transform/core'
import { writeGlb } from '@stern-gate/core'

/** A lumpy ball of about so many triangles, indexed, with normals and UVs, as GLB. */
export async function lumpyBall(triangles: number): Promise<Uint8Array> {
  const side = Math.max(4, Math.round(Math.sqrt(triangles / 2)))
  const positions: number[] = [],
    normals: number[] = [],
    uvs: number[] = [],
    indices: number[] = []
  for (let i = 0; i <= side; i++)
    for (let j = 0; j <= side; j++) {
      const a = (j / side) * Math.PI * 2,
        b = 0.02 + (i / side) * (Math.PI - 0.04)
      const r = 1 + 0.08 * Math.sin(a * 7) * Math.sin(b * 5)
      const n = [Math.sin(b) * Math.cos(a), Math.cos(b), -Math.sin(b) * Math.sin(a)] as const
      // The seam closes exactly
      const c = j === side ? positions.slice(i * (side + 1) * 3, i * (side + 1) * 3 + 3) : n.map((v) => v * r)
      positions.push(...c)
      normals.push(...n)
      uvs.push(j / side, i / side)
    }
  for (let i = 0; i < side; i++)
    for (let j = 0; j < side; j++) {
      const v = i * (side + 1) + j
      indices.push(v, v + side + 1, v + side + 2, v, v + side + 2, v + 1)
    }
  const document = new Document()
  const buffer = document.createBuffer()
  const array = (values: number[], type: 'VEC2' | 'VEC3') =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', array(positions, 'VEC3'))
    .setAttribute('NORMAL', array(normals, 'VEC3'))
    .setAttribute('TEXCOORD_0', array(uvs, 'VEC2'))
    .setIndices(
      document.createAccessor().setType('SCALAR').setArray(new Uint32Array(indices)).setBuffer(buffer),
    )
    .setMaterial(document.createMaterial('ball-clay'))
  document
    .createScene()
    .addChild(
      document
        .createNode('harbour_ball_a')
        .setMesh(document.createMesh('harbour_ball_a').addPrimitive(primitive)),
    )
  return writeGlb(document, () => ({ embed: new Uint8Array(0) }))
}
