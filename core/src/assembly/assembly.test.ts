import { describe, expect, it } from 'vitest'
import type { MeshFacts } from '@stern-gate/contract'
import { crateFiles } from '../fixtures/crateFixture'
import { measureFixture } from '../fixtures/measureFixture'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { assembleAssets, type AssemblyFile } from './assembleAssets'
import { isSameModel } from './sameModel'
import { workingFile, workingFileFault, workingFilesBeside } from './workingFiles'

type Overview = NonNullable<MeshFacts['overview']>
const crate: Overview = {
  triangles: 400,
  area: 6,
  size: [1, 2, 3],
  levels: 1,
  collision: false,
  uvChannels: 1,
  colours: false,
  normals: true,
  skinned: false,
}
const mesh = (
  path: string,
  more: Partial<Overview> = {},
  clips = 0,
  unit: number | null = 1,
): AssemblyFile => ({
  path,
  kind: 'glb',
  facts: {
    kind: 'mesh',
    file: {
      buffers: [],
      companions: [],
      images: [],
      generator: '',
      declared: { unitMetres: unit, upAxis: null },
      clips: Array(clips).fill(null),
    },
    overview: { ...crate, ...more },
  },
})
const drafts = (...files: AssemblyFile[]) =>
  assembleAssets(files, defaultRulebook).map((d) => [d.name, d.main, (d.aside ?? []).map((a) => a.path)])

describe('files of one name', () => {
  it('of one model in several formats the one that carries most is chosen, and the others say what they lack', () => {
    const [draft] = assembleAssets(
      [
        mesh('a/crate.obj', {}, 0, null),
        mesh('a/crate.glb', { uvChannels: 2 }),
        mesh('a/crate.fbx', { levels: 3 }, 2),
      ],
      defaultRulebook,
    )
    expect([draft!.main, draft!.aside]).toEqual([
      'a/crate.fbx',
      [
        {
          path: 'a/crate.glb',
          chosen: 'a/crate.fbx',
          why: 'It is the same model as crate.fbx, which also carries 2 clips, 3 levels of detail.',
        },
        {
          path: 'a/crate.obj',
          chosen: 'a/crate.fbx',
          why: 'It is the same model as crate.fbx, which also carries 2 clips, 3 levels of detail, its unit.',
        },
      ],
    ])
  })
  it('the same in another unit and on its side is the same; more triangles or another shape is not', () => {
    const same = (more: Partial<Overview>) => isSameModel(crate, { ...crate, ...more })
    expect(same({ size: [300, 100, 200], area: 60_000 })).toBe(true)
    expect(same({ triangles: 410 })).toBe(false)
    expect(same({ size: [1, 2, 3.2] })).toBe(false)
    expect(same({ area: 7 })).toBe(false)
    expect(isSameModel(crate, null)).toBe(false)
    expect(isSameModel({ ...crate, triangles: 0 }, { ...crate, triangles: 0 })).toBe(false)
  })
  it('carrying the same the richer format is taken', () => {
    expect(drafts(mesh('a/crate.stl'), mesh('a/crate.ply'))).toEqual([
      ['crate', 'a/crate.ply', ['a/crate.stl']],
    ])
    expect(drafts(mesh('b/crate.glb'), mesh('a/crate.gltf'))).toEqual([
      ['crate', 'b/crate.glb', ['a/crate.gltf']],
    ])
  })
  it('other models of one name are assets with names of their own, by folder, then by format', () => {
    expect(
      drafts(
        mesh('a/crate.glb'),
        mesh('b/crate.glb', { triangles: 90 }),
        mesh('b/crate.fbx', { triangles: 50 }),
        mesh('crate.glb', { triangles: 20 }),
        mesh('b/c/crate.glb', { triangles: 10 }),
      ).map(([name]) => name),
    ).toEqual(['crate', 'b_crate', 'crate_fbx', 'crate_glb', 'c_crate'])
  })
  it('levels in files of their own stay with theirs, whatever format the finest came in', () => {
    expect(
      drafts(
        mesh('a/crate_lod0.glb'),
        mesh('a/crate_lod0.obj', {}, 0, null),
        mesh('a/crate_lod1.glb', { triangles: 99 }),
      ),
    ).toEqual([['crate', 'a/crate_lod0.glb', ['a/crate_lod0.obj']]])
  })
  it('files of one format are never set aside: they may wear other surfaces', async () => {
    const files = {
      ...(await crateFiles({ folder: 'a', name: 'crate' })),
      ...(await crateFiles({ folder: 'b', name: 'crate' })),
      ...(await crateFiles({ folder: 'c', name: 'crate', grid: 3 })),
    }
    const found = assembleAssets(await measureFixture(files), defaultRulebook).filter(
      (d) => d.kind === 'mesh',
    )
    expect(found.map((d) => [d.name, d.main, d.aside?.length ?? 0])).toEqual([
      ['crate', 'a/crate.glb', 0],
      ['b_crate', 'b/crate.glb', 0],
      ['c_crate', 'c/crate.glb', 0],
    ])
  })
})

describe('working files', () => {
  it('are known by their extension, and say what to ask for', () => {
    expect([workingFile('a/crate.BLEND'), workingFile('x.psd'), workingFile('x.glb')]).toEqual([
      'model',
      'picture',
      null,
    ])
    expect(workingFileFault('a/crate.max')).toMatchObject({
      code: 'file/working-file',
      why: '.max is a working file: it is not opened here.',
    })
    expect(workingFileFault('x.kra')!.hint).toContain('PNG')
  })
  it('beside a mesh of their name they are set aside for it', () => {
    expect(
      workingFilesBeside(['src/Crate.blend', 'src/other.blend', 'crate.psd'], [{ main: 'a/crate.glb' }]),
    ).toEqual([
      {
        path: 'src/Crate.blend',
        chosen: 'a/crate.glb',
        why: 'It is the working file of crate.glb, by its name.',
      },
    ])
  })
})
