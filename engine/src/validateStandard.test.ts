import { Document } from '@gltf-transform/core'
import { describe, expect, it } from 'vitest'
import type { RecipeStep } from '@stern-gate/contract'
import { judge, writeGlb } from '@stern-gate/core'
import { crateFiles, subjectsOf, type CrateOptions } from '@stern-gate/core/fixtures'
import { mendAsset } from './mendAsset'
import { validateStandard } from './validateStandard'

const none = () => null

describe("the open standard's validator", () => {
  it('finds nothing in the clean crate, and counts what breaks the standard by code', async () => {
    const files = await crateFiles({})
    const [path, glb] = Object.entries(files).find(([p]) => p.endsWith('.glb'))!
    expect(await validateStandard(glb, path, none)).toEqual({ errors: [], all: true })
    const document = new Document(),
      buffer = document.createBuffer()
    const attribute = (values: number[]) =>
      document.createAccessor().setType('VEC3').setArray(new Float32Array(values)).setBuffer(buffer)
    document.createScene().addChild(
      document.createNode('a').setMesh(
        document.createMesh('a').addPrimitive(
          document
            .createPrimitive()
            .setAttribute('POSITION', attribute([0, 0, 0, 1, 0, 0, 0, 1, 0]))
            .setAttribute('NORMAL', attribute([0, 0, 3, 0, 0, 0, 0, 0, 1])),
        ),
      ),
    )
    const broken = await writeGlb(document, () => ({ embed: new Uint8Array(0) }))
    const { errors, all } = await validateStandard(broken, 'a.glb', none)
    expect(all).toBe(true)
    expect(errors).toHaveLength(1)
    expect(errors[0]).toMatchObject({ count: 2, first: '/meshes/0/primitives/0/attributes/NORMAL' })
    expect(errors[0]!.code).toContain('NON_UNIT')
  })
})

const steps = async (files: Record<string, Uint8Array>): Promise<RecipeStep[]> => {
  const [subject] = (await subjectsOf(files)).filter((s) => s.kind === 'mesh')
  return judge(subject!).findings.flatMap((f) =>
    f.remedies
      .slice(0, 1)
      .map(({ remedy, options }, k) => ({ id: `${f.rule}${k}`, remedy, options, on: true, why: '' })),
  )
}

const spoiled: CrateOptions[] = [
  { slivers: 3, crack: 0.0002, unwelded: true },
  { insideOut: 'one-face', nodeScale: [-1, 1, 1] },
  { nan: 'positions' },
  { nan: 'uvs', uvs: 'two' },
  { uvs: 'one-point', brokenIndex: true },
  { skin: { bones: 6, sum: 0.7 }, clip: 'crate@open' },
  { grid: 45, levels: 3, twice: true },
  { specularGloss: true, embed: true, green: 'down' },
]
it.each(spoiled.map((o) => [JSON.stringify(o), o] as const))(
  'no output breaks the standard where its source did not: %s',
  async (_, options) => {
    const files = await crateFiles(options)
    const main = Object.keys(files).find((p) => p.endsWith('.glb'))!
    const before = new Set((await validateStandard(files[main]!, main, none)).errors.map((e) => e.code))
    const source = {
      name: 'x',
      kind: 'mesh' as const,
      main,
      files: Object.entries(files).map(([path, bytes]) => ({
        path,
        part: path === main ? ('mesh' as const) : ('texture' as const),
        bytes,
      })),
    }
    const more = ['mesh/recompute-normals', 'mesh/generate-tangents'].map((remedy): RecipeStep => ({
      id: remedy,
      remedy,
      options: { node: null },
      on: true,
      why: '',
    }))
    for (const step of [...(await steps(files)), ...more]) {
      const made = await mendAsset(source, { steps: [step] }, {}, () => undefined)
      if (!made.ok) continue
      const glb = made.value.files.find((f) => f.path === made.value.main)!
      const after = await validateStandard(glb.bytes, glb.path, none)
      expect(
        after.errors.filter((e) => !before.has(e.code)),
        step.remedy,
      ).toEqual([])
    }
  },
  60_000,
)
