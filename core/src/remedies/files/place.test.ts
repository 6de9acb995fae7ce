import { describe, expect, it } from 'vitest'
import { subjectsOf } from '../../fixtures/measureFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { fixturePorts } from '../../fixtures/pngFixture'
import { applyRecipe } from '../../recipe/applyRecipe'
import { writeWork } from '../../recipe/writeWork'

async function placed(options: Record<string, string>) {
  const work = await openedCrate({ textureSize: [64, 64] })
  const done = await applyRecipe(
    work,
    { steps: [{ id: '1', remedy: 'files/place', options, on: true, why: '' }] },
    fixturePorts,
  )
  return {
    done,
    files: done.ok ? Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes])) : {},
  }
}

describe('files/place', () => {
  it('puts each kind into its folder, and the mesh finds its textures there', async () => {
    const { files } = await placed({ mesh: 'models/crates', textures: 'maps' })
    expect(Object.keys(files).sort()).toEqual([
      'maps/harbour_crate_a_basecolor.png',
      'maps/harbour_crate_a_normal.png',
      'maps/harbour_crate_a_orm.png',
      'models/crates/harbour_crate_a.glb',
    ])
    const [subject] = await subjectsOf(files)
    expect(subject!.references.map((r) => [r.resolved, r.how]).sort()).toEqual(
      ['basecolor', 'normal', 'orm'].map((role) => [`maps/harbour_crate_a_${role}.png`, 'path']),
    )
  })
  it('leaves where it stands what has no folder of its own', async () => {
    const { done, files } = await placed({ textures: 'maps' })
    expect(done).toMatchObject({ ok: true, value: [{ changed: true, said: '3 files put into maps' }] })
    expect(Object.keys(files)).toContain('props/harbour_crate_a.glb')
    expect((await placed({ mesh: 'props' })).done).toMatchObject({ ok: true, value: [{ changed: false }] })
  })
  it.each(['../up', '/root', 'a//b', 'con<', 'a/ b'])('refuses the folder %s', async (mesh) => {
    expect((await placed({ mesh })).done).toMatchObject({ ok: false, fault: { code: 'remedy/bad-options' } })
  })
})
