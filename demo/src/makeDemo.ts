import { readGltfContainer } from '@stern-gate/core'
import { bollard } from './assets/bollard'
import { buildMesh } from './assets/buildMesh'
import type { AssetPlan } from './assets/assetPlan'
import { lantern, lanternAgain } from './assets/lantern'
import { chartTable, crabpot, oar } from './assets/gear'
import { navbuoy, tidegauge } from './assets/afloat'
import { quaystone, ropecoil, seawall, stainRust } from './assets/quay'
import { pennant } from './assets/pennant'
import { fromOutside } from './assets/fromOutside'
import { marram, sinker } from './assets/dunes'
import { awning, sailCover } from './assets/canvas'
import { berthNumber, divingBell, fender } from './assets/harbourside'
import { shedSet } from './assets/shed'
import { skiff } from './assets/skiff'
import { winch } from './assets/winch'
import { paint, type PaintedSet } from './surface/paint'

export interface DemoFile {
  path: string
  bytes: Uint8Array
}

/** The assets of Gullwick Harbour. */
export const demoAssets: readonly AssetPlan[] = [
  bollard,
  skiff,
  lantern,
  winch,
  pennant,
  navbuoy,
  oar,
  seawall,
  quaystone,
  stainRust,
  tidegauge,
  ropecoil,
  crabpot,
  chartTable,
  shedSet,
  fender,
  divingBell,
  berthNumber,
  awning,
  sailCover,
  sinker,
  marram,
]

/**
 * Makes the files of one asset: the mesh in its folder, its textures beside it in `textures/`. The same bytes
 * each time.
 */
export async function makeAsset(plan: AssetPlan): Promise<DemoFile[]> {
  const painted = Object.fromEntries(
    Object.entries(plan.surfaces).map(([stem, s]) => [stem, paint(s.surface, s.size, s.options)]),
  )
  const glb = await buildMesh({ pictures: 'textures/', ...plan.mesh(painted) })
  const folder = `gullwick/${plan.folder}`
  const mesh = plan.split
    ? splitGlb(glb, plan.name, folder)
    : [{ path: `${folder}/${plan.name}.glb`, bytes: glb }]
  return plan.embedded ? mesh : [...mesh, ...textureFiles(plan, painted, `${folder}/textures`)]
}

/** One of the demo's deliveries. */
export interface DemoDelivery {
  note: string
  daysAgo: number
  files: DemoFile[]
}

/**
 * The demo's deliveries: what the harbour began with, what came after, a re-export together with a damaged file, and
 * one in somebody else's manner, whose textures nobody wired.
 */
export async function makeDeliveries(): Promise<DemoDelivery[]> {
  const of = async (delivery: number): Promise<DemoFile[]> =>
    (await Promise.all(demoAssets.filter((a) => a.delivery === delivery).map(makeAsset))).flat()
  const again = await makeAsset(lanternAgain)
  const damaged = { path: 'gullwick/props/harbour_cleat_a.glb', bytes: again[0]!.bytes.slice(0, 3000) }
  return [
    { note: 'first boatload', daysAgo: 6, files: await of(1) },
    { note: 'quay and gear', daysAgo: 2, files: await of(2) },
    { note: 'lantern again', daysAgo: 0, files: [...again, damaged] },
    { note: 'from a workshop ashore', daysAgo: 0, files: await fromOutside() },
  ]
}

function textureFiles(plan: AssetPlan, painted: Record<string, PaintedSet>, folder: string): DemoFile[] {
  const sets = Object.entries(painted).flatMap(([stem, set]) =>
    (['basecolor', 'normal', 'orm', 'tint'] as const).flatMap((role) =>
      set[role] && !plan.leaveOut?.[stem]?.includes(role)
        ? [{ path: `${folder}/${stem}_${role}.png`, bytes: set[role] }]
        : [],
    ),
  )
  const more = Object.entries(plan.more?.(painted) ?? {}).map(([name, bytes]) => ({
    path: `${folder}/${name}.png`,
    bytes,
  }))
  return [...sets, ...more]
}

/** The same mesh as text with its binary chunk beside it. */
function splitGlb(glb: Uint8Array, name: string, folder: string): DemoFile[] {
  const container = readGltfContainer(glb)
  if (!container.ok || !container.value.binary) throw new Error('the sample mesh has no binary chunk')
  const view = new DataView(glb.buffer, glb.byteOffset)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + view.getUint32(12, true)))) as {
    buffers: { uri?: string; byteLength: number }[]
  }
  json.buffers[0]!.uri = `${name}.bin`
  return [
    { path: `${folder}/${name}.gltf`, bytes: new TextEncoder().encode(`${JSON.stringify(json, null, 1)}\n`) },
    { path: `${folder}/${name}.bin`, bytes: container.value.binary.slice(0, json.buffers[0]!.byteLength) },
  ]
}
