import {
  defaultRulebook,
  openMeshFile,
  partsByPlan,
  planOf,
  proposeWays,
  readMesh,
  takeApart,
  type MeshSource,
} from '@stern-gate/core'
import { measureFixture, sceneFile, type SceneFixtureNode } from '@stern-gate/core/fixtures'
import { median } from './clock'
import type { Figure } from './figure'

const OBJECTS = 500

/** A file of 500 objects: what every way would make of it, and taking it apart against reading it. */
export async function sceneFigures(tell: (line: string) => void): Promise<Figure[]> {
  tell(`${OBJECTS} objects in one file`)
  const nodes = Array.from({ length: OBJECTS }, (_, i): SceneFixtureNode => ({
    name: `thing_${i}`,
    at: [(i % 25) * 2, 0, Math.floor(i / 25) * 2],
    turn: i * 7,
    box: [1 + (i % 50) / 100, 1, 1],
    fine: 12,
  }))
  const bytes = await sceneFile(nodes)
  const [measured] = await measureFixture({ 'sets/quay.glb': bytes })
  if (measured?.facts?.kind !== 'mesh' || !measured.facts.nodes) throw new Error('the scene is not measured')
  const facts = measured.facts.nodes
  const proposing = await median(5, async () => proposeWays(facts, 'quay', defaultRulebook))
  const reading = await median(5, () => read(bytes))
  const plan = planOf('nodes')
  const { parts } = partsByPlan(facts, { ...plan, copies: false }, 'quay', defaultRulebook)
  const taking = await median(3, async () =>
    takeApart({
      path: 'sets/quay.glb',
      source: await read(bytes),
      nodes: facts,
      parts,
      plan,
      hash: (b) => String(b.length),
    }),
  )
  return [
    {
      what: `${OBJECTS} objects in one file: what each of the six ways would make of it, in seconds`,
      measured: `${proposing.toFixed(0)} ms`,
      ratio: proposing / 1000,
      wanted: { most: 2 },
    },
    {
      what: `Taking it apart into ${parts.length} files against reading it`,
      measured: `${taking.toFixed(0)} ms against ${reading.toFixed(0)} ms`,
      ratio: taking / reading,
      wanted: null,
    },
  ]
}

async function read(bytes: Uint8Array): Promise<MeshSource> {
  const opened = await openMeshFile(bytes, 'sets/quay.glb', () => null)
  if (!opened.ok) throw new Error(opened.fault.why)
  const source = await readMesh(opened.value.container, opened.value.references, () => null)
  if (!source.ok) throw new Error(source.fault.why)
  return source.value
}
