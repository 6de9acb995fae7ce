import { existsSync, readFileSync } from 'node:fs'
import { receiveMessageOnPort, type MessagePort } from 'node:worker_threads'
import { move, transferableSymbol, valueSymbol } from 'piscina'
import { good } from '@stern-gate/contract'
import { cellsOfMask, isMeshName } from '@stern-gate/core'
import { measureFile, pictureOf, usedFactsOf } from './measureFile'
import { pictureInside } from './pictureInside'
import { mendAsset, stageModel, type AssetSource } from './mendAsset'
import { drawParts, takeSceneApart } from './sceneParts'
import { topologyThread } from './topologyThread'
import { BEGUN, type ThreadWord } from './threadWords'
import { validateStandard } from './validateStandard'
import { taskSchema, type AssetFiles, type Task } from './tasks'

/** What the pool sends: the task, a port for words of progress and questions, and what a question waits on. */
export interface WorkerInput {
  task: Task
  port: MessagePort | null
  answered: Int32Array<SharedArrayBuffer>
}

const topology = topologyThread(new URL('./topology-worker.js', import.meta.url))

/** A mesh file of this size may hold enough triangles for a second thread. */
const LARGE = 4_000_000

/** Entry of a worker thread: one task at a time, files read here, results handed over without copying. */
export default async function work({ task, port, answered }: WorkerInput): Promise<unknown> {
  const asked = taskSchema.parse(task)
  const say = (word: ThreadWord) => port?.postMessage(word)
  say(BEGUN)
  try {
    return await run(asked, say, (reference) => (port ? askFor(reference, port, answered) : null))
  } finally {
    port?.close()
  }
}

/**
 * Asks the engine where the file is that a reference means, and waits for the answer: the list of a delivery
 * of thousands is not copied to each thread for each file.
 */
function askFor(
  reference: string,
  port: MessagePort,
  answered: Int32Array<SharedArrayBuffer>,
): string | null {
  Atomics.store(answered, 0, 0)
  port.postMessage({ ask: reference } satisfies ThreadWord)
  Atomics.wait(answered, 0, 0)
  const answer = receiveMessageOnPort(port) as { message: string | null } | undefined
  return answer?.message ?? null
}

async function run(
  task: Task,
  progress: (doing: string) => void,
  ask: (reference: string) => string | null,
): Promise<unknown> {
  const places = new Map<string, string | null>()
  const find = (reference: string) => {
    const place = places.has(reference) ? places.get(reference)! : ask(reference)
    places.set(reference, place)
    return place === null ? null : bytesOf(place)
  }
  if (task.kind === 'validate') return good(await validateStandard(bytesOf(task.file), task.path, find))
  if (task.kind === 'measure') {
    const bytes = bytesOf(task.file)
    if (bytes.length > LARGE && isMeshName(task.path)) topology.warm()
    return measureFile(task.path, bytes, {
      find,
      progress,
      thumbnail: task.thumbnail,
      sha256: task.sha256,
      topology: topology.count,
    })
  }
  if (task.kind === 'mend')
    return mendAsset(
      sourceOf(task),
      task.recipe,
      {
        known: new Set(task.known),
        thumbnail: task.thumbnail,
        topology: topology.count,
        stepData: (sha256) => {
          const kept = task.stepData.find((d) => d.sha256 === sha256)
          return kept && existsSync(kept.file) ? bytesOf(kept.file) : null
        },
      },
      progress,
    )
  if (task.kind === 'apart') return takeSceneApart(task, bytesOf(task.file), find)
  if (task.kind === 'draw-parts') return drawParts(task, bytesOf(task.file), find)
  if (task.kind === 'encode') {
    const { encodeTexture } = await import('./encode/encodeTexture')
    const done = await encodeTexture(bytesOf(task.file), task.path, task.plan, cellsOf(task), progress)
    return done.ok ? handOver(done, [done.value.file, done.value.picture]) : done
  }
  if (task.kind === 'search') {
    const { searchFormats } = await import('./encode/searchFormats')
    return searchFormats(bytesOf(task.file), task.path, task.wish, cellsOf(task), progress)
  }
  if (task.kind === 'stored-error') {
    const { storedError } = await import('./encode/storedError')
    const file = bytesOf(task.file),
      picture = task.picture === undefined ? good(file) : await pictureInside(file, task.path, task.picture)
    return picture.ok ? storedError(picture.value, task.path, task.as, cellsOf(task)) : picture
  }
  if (task.kind === 'used') return usedFactsOf(bytesOf(task.file), task.path, task.cells)
  if (task.kind === 'picture') return pictureOf(bytesOf(task.file), task.path)
  const model = await stageModel(sourceOf(task))
  return model.ok && model.value ? handOver(model, [model.value]) : model
}

const cellsOf = ({ cells }: { cells: string[] | null }): Uint32Array | null => cells && cellsOfMask({ cells })

/** Hands a result over with its byte arrays moved, not copied. */
function handOver(value: unknown, arrays: readonly Uint8Array[]): unknown {
  const buffers = [...new Set(arrays.map((a) => a.buffer))].filter((b) => b instanceof ArrayBuffer)
  return move({
    get [transferableSymbol]() {
      return buffers
    },
    get [valueSymbol]() {
      return value
    },
  } as never)
}

/** A file without a second copy of it: what Node read has a buffer of its own, unless it is small. */
function bytesOf(file: string): Uint8Array {
  const read = readFileSync(file)
  return read.byteLength === read.buffer.byteLength ? new Uint8Array(read.buffer) : new Uint8Array(read)
}

const sourceOf = (task: AssetFiles): AssetSource => ({
  name: task.name,
  kind: task.assetKind,
  main: task.main,
  files: task.files.map((f) => ({ path: f.path, part: f.part, bytes: bytesOf(f.file) })),
})
