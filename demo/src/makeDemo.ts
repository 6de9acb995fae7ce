import { readGltfContainer } from '@stern-gate/core'
import { bollard } from './assets/bollard'
import { buildMesh } from './assets/buildMesh'
import type { AssetPlan } from './assets/assetPlan'
import { lantern } from './assets/lantern'
import { pennant } from './assets/pennant'
import { skiff } from './assets/skiff'
import { winch } from './assets/winch'
import { paint, type PaintedSet } from './surface/paint'

export interface DemoFile { path: string; bytes: Uint8Array }

/** The assets of Gullwick Harbour that are made so far. */
export const demoAssets: readonly AssetPlan[] = [bollard, skiff, lantern, winch, pennant]

/** Makes the files of one asset: the mesh in its folder, its textures beside it in `textures/`. The same bytes each time. */
export async function makeAsset(plan: AssetPlan): Promise<DemoFile[]> {
  const painted = Object.fromEntries(Object.entries(plan.surfaces).map(([stem, s]) => [stem, paint(s.surface, s.size, s.options)]))
  const glb = await buildMesh({ pictures: 'textures/', ...plan.mesh(painted) })
  const folder = `gullwick/${plan.folder}`
  const mesh = plan.split ? splitGlb(glb, plan.name, folder) : [{ path: `${folder}/${plan.name}.glb`, bytes: glb }]
  return plan.embedded ? mesh : [...mesh, ...textureFiles(painted, `${folder}/textures`)]
}

/** All files of the demo delivery. */
export async function makeDemo(): Promise<DemoFile[]> {
  const files: DemoFile[] = []
  for (const plan of demoAssets) files.push(...(await makeAsset(plan)))
  return files
}

function textureFiles(painted: Record<string, PaintedSet>, folder: string): DemoFile[] {
  return Object.entries(painted).flatMap(([stem, set]) =>
    (['basecolor', 'normal', 'orm', 'tint'] as const).flatMap((role) => (set[role] ? [{ path: `${folder}/${stem}_${role}.png`, bytes: set[role] }] : [])))
}

/** The same mesh as text with its binary chunk beside it. */
function splitGlb(glb: Uint8Array, name: string, folder: string): DemoFile[] {
  const container = readGltfContainer(glb)
  if (!container.ok || !container.value.binary) throw new Error('the sample mesh has no binary chunk')
  const view = new DataView(glb.buffer, glb.byteOffset)
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + view.getUint32(12, true)))) as { buffers: { uri?: string; byteLength: number }[] }
  json.buffers[0]!.uri = `${name}.bin`
  return [
    { path: `${folder}/${name}.gltf`, bytes: new TextEncoder().encode(`${JSON.stringify(json, null, 1)}\n`) },
    { path: `${folder}/${name}.bin`, bytes: container.value.binary.slice(0, json.buffers[0]!.byteLength) },
  ]
}
