import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { reportSchema } from '@stern-gate/contract'
import { crateFiles, sceneFile, shedNodes, type SceneFixtureNode } from '@stern-gate/core/fixtures'
import { runIn } from './testProgram'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-apart-'))
  await mkdir(join(folder, 'sets'))
  await writeFile(join(folder, 'sets/shed.glb'), await sceneFile(shedNodes))
  for (const [path, bytes] of Object.entries(await crateFiles({ folder: 'sets', name: 'lone_crate' })))
    await writeFile(join(folder, path), bytes)
})
afterAll(() => rm(folder, { recursive: true, force: true }))

async function check(...args: string[]) {
  const { exit, out, err } = await runIn(folder, ['check', ...args, '--format', 'json', '--no-cache'])
  const names = out ? reportSchema.parse(JSON.parse(out)).assets.map((a) => a.name) : []
  return { exit, err, names: names.sort() }
}

describe('check --apart', () => {
  it('takes files of several things apart and leaves those of one thing whole', async () => {
    const { names, err } = await check('sets', '--apart', 'top')
    expect(names).toEqual(['lone_crate', 'shed_door', 'shed_shelf', 'shed_stool', 'shed_table'])
    expect(err).toContain('sets/shed.glb taken apart (top): 4 assets, 7 placements; left out: shed_figure')
  })
  it('keeps everything whole without a word of it', async () => {
    expect((await check('sets')).names).toEqual(['lone_crate', 'shed'])
    expect((await check('sets', '--apart', 'whole')).names).toEqual(['lone_crate', 'shed'])
  })
  it('writes parts, shared pictures once, and placements into a folder', async () => {
    await check('sets/shed.glb', '--apart', 'top', '--into', 'out')
    expect(
      (await readdir(join(folder, 'out'), { recursive: true })).filter((f) => /\./.test(f)).sort(),
    ).toEqual([
      'shed/placements.gltf',
      'shed/shed_door.glb',
      'shed/shed_shelf.glb',
      'shed/shed_stool.glb',
      'shed/shed_table.glb',
      'shed/textures/iron_basecolor.png',
      'shed/textures/paint_basecolor.png',
      'shed/textures/wood_basecolor.png',
    ])
    const placements = JSON.parse(await readFile(join(folder, 'out/shed/placements.gltf'), 'utf8'))
    expect(placements.nodes.map((n: { extras: { asset: { file: string } } }) => n.extras.asset.file)).toEqual(
      ['shed_table.glb', ...Array(4).fill('shed_stool.glb'), 'shed_door.glb', 'shed_shelf.glb'],
    )
  })
  it('does as the rulebook says, with what was joined and left out, for a second export as for the first', async () => {
    await writeFile(
      join(folder, 'stern-gate.json'),
      JSON.stringify({
        extends: 'default',
        scenes: [
          {
            files: 'sets/shed*.glb',
            plan: {
              way: 'top',
              joined: [['shed/shed_table', 'shed/shed_shelf']],
              left: ['shed/shed_door_lod0'],
            },
          },
        ],
      }),
    )
    const second = structuredClone(shedNodes) as SceneFixtureNode[]
    second[0]!.children!.push({ name: 'shed_lamp', at: [0, 2, 0], box: [0.2, 0.2, 0.2] })
    expect((await check('sets')).names).toEqual(['lone_crate', 'shed_stool', 'shed_table'])
    await writeFile(join(folder, 'sets/shed.glb'), await sceneFile(second))
    expect((await check('sets')).names).toEqual(['lone_crate', 'shed_lamp', 'shed_stool', 'shed_table'])
  })
  it('refuses a way that there is not', async () => {
    const { exit, err } = await check('sets', '--apart', 'colour')
    expect([exit, err]).toEqual([
      2,
      expect.stringContaining('Use top, groups, name, distance, nodes, whole.'),
    ])
  })
})
