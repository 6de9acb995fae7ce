import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join, relative, resolve } from 'node:path'
import { apartWaySchema, bad, type ApartWay, type ScenePlan } from '@stern-gate/contract'
import { planOf, planOfRulebook, planOfWay, type MeasuredFile, type PieceFile } from '@stern-gate/core'
import {
  completeMeasurements,
  findAmong,
  measureFiles,
  placementsOf,
  takeOneApart,
  type Engine,
  type FoundFile,
  type SceneTakenApart,
} from '@stern-gate/engine'
import { settingsOf, type MeasuredForRules } from './measureForRules'
import { CannotRun, faultText, type Surroundings } from './surroundings'

export interface ApartArguments {
  apart?: string
}

/** The way that is asked for; null: what the rulebook says. Throws CannotRun for a way that there is not. */
export function askedWay({ apart }: ApartArguments): ApartWay | null {
  if (apart === undefined) return null
  const way = apartWaySchema.safeParse(apart)
  if (way.success) return way.data
  throw new CannotRun(
    bad(
      'request/invalid',
      `There is no way “${apart}” to take a scene apart.`,
      `Use ${apartWaySchema.options.join(', ')}.`,
      { part: '--apart' },
    ).fault,
  )
}

/**
 * Puts the parts of scenes in the place of their files, as the way that was asked for or the rulebook says. Parts lie
 * in a temporary folder until `close`, and in `into` where one is given, each scene with its placements.
 */
export async function takeScenesApart(
  engine: Engine,
  around: Surroundings,
  all: MeasuredForRules,
  { way, into, validate = false }: { way: ApartWay | null; into?: string | undefined; validate?: boolean },
): Promise<MeasuredForRules> {
  const placed = new Map(all.files.map((f) => [f.path, f.file]))
  const beside = findAmong(all.files)
  const scenes: SceneTakenApart[] = []
  for (const file of all.measured.files) {
    const plan = planFor(file, all, way)
    if (!plan) continue
    const taken = await takeOneApart(engine, file, placed.get(file.path)!, plan, all.rules.rulebook, beside)
    if (taken === null) continue
    if ('fault' in taken) around.err(`not taken apart: ${taken.path}: ${faultText(taken.fault)}`)
    else {
      scenes.push(taken)
      around.err(summary(taken))
    }
  }
  if (scenes.length === 0) return all
  const folder = await mkdtemp(join(tmpdir(), 'stern-gate-'))
  const pieces: FoundFile[] = []
  for (const [i, scene] of scenes.entries()) {
    pieces.push(...(await layPieces(join(folder, String(i)), scene.files)))
    if (into !== undefined) await writeScene(resolve(around.cwd, into), scene)
  }
  const gone = new Set(scenes.map((s) => s.path))
  const files = [...pieces, ...all.files.filter((f) => !gone.has(f.path))]
  const measured = await measureFiles(engine, pieces, all.files, { validate })
  const now = [
    ...all.measured.files.filter((f) => !gone.has(f.path)),
    ...measured.files.filter(isPiece(pieces)),
  ].sort((a, b) => (a.path < b.path ? -1 : 1))
  const lies = new Map(files.map((f) => [f.path, f.file]))
  const fileOf = (path: string): string | undefined => lies.get(path)
  return {
    ...all,
    files,
    measured: {
      ...all.measured,
      files: await completeMeasurements(engine, now, settingsOf(all), { fileOf }),
    },
    close: async () => {
      await all.close()
      await rm(folder, { recursive: true, force: true })
    },
  }
}

/** A single file that was named by itself is taken apart as asked even where it does not look like several things. */
function planFor(file: MeasuredFile, all: MeasuredForRules, way: ApartWay | null): ScenePlan | null {
  if (file.facts?.kind !== 'mesh' || !file.facts.nodes) return null
  const { rulebook } = all.rules
  const own = planOfRulebook(rulebook, file.path)
  if (way === null) return own
  if (way === 'whole') return null
  if (own?.way === way) return own
  const meshes = all.measured.files.filter((f) => f.facts?.kind === 'mesh')
  const asked = planOfWay(way, file.facts.nodes, rulebook)
  return asked ?? (meshes.length === 1 ? planOf(way) : null)
}

const isPiece = (pieces: readonly FoundFile[]) => {
  const paths = new Set(pieces.map((p) => p.path))
  return (file: MeasuredFile): boolean => paths.has(file.path)
}

async function layPieces(folder: string, files: readonly PieceFile[]): Promise<FoundFile[]> {
  const laid: FoundFile[] = []
  for (const { path, bytes } of files) {
    const file = join(folder, path.replaceAll('../', '_/'))
    await mkdir(dirname(file), { recursive: true })
    await writeFile(file, bytes)
    laid.push({ path, file, sizeBytes: bytes.length })
  }
  return laid
}

/** Writes the parts and the placements of a scene into a folder, below the scene's name. */
async function writeScene(folder: string, scene: SceneTakenApart): Promise<void> {
  const beside = dirname(scene.path)
  const put = async (path: string, data: Uint8Array | string): Promise<void> => {
    const file = join(folder, relative(beside, path))
    await mkdir(dirname(file), { recursive: true })
    await writeFile(file, data)
  }
  for (const { path, bytes } of scene.files) await put(path, bytes)
  const stem = scene.path.replace(/\.[^./]*$/, '')
  await put(
    `${stem}/placements.gltf`,
    placementsOf(scene, ({ path }) => ({ file: relative(stem, path) })),
  )
}

function summary({ path, plan, parts, left }: SceneTakenApart): string {
  const places = parts.reduce((sum, p) => sum + p.placements.length, 0)
  const more = places > parts.length ? `, ${places} placements` : ''
  const out = left.length > 0 ? `; left out: ${left.map((l) => l.name).join(', ')}` : ''
  return `${path} taken apart (${plan.way}): ${parts.length} ${parts.length === 1 ? 'asset' : 'assets'}${more}${out}\n`
}
