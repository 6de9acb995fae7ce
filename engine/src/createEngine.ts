import { MessageChannel } from 'node:worker_threads'
import {
  bad,
  faultAt,
  good,
  type EncodingPlan,
  type Fault,
  type FaultCode,
  type FormatSearch,
  type FormatWish,
  type Outcome,
  type StoredError,
  type Recipe,
  type StandardFacts,
  type UsedFacts,
} from '@stern-gate/contract'
import type { MeasuredFile, TakenApart } from '@stern-gate/core'
import type { EncodedTexture } from './encode/encodeTexture'
import { nothingBeside, type FileMeasurement } from './fileMeasurement'
import { nothingAround, type FindBeside } from './findAmong'
import type { MendedAsset } from './mendAsset'
import { openPool, type Pool, type PoolOptions } from './openPool'
import type { ApartTask, AssetFiles, DrawPartsTask, MendTask, PlacedFile, Task } from './tasks'
import { timeLimit, tooSlow } from './timeLimits'
import { BEGUN, type ThreadWord } from './threadWords'

export interface EngineOptions extends PoolOptions {
  secondsPerFile: number
}

export interface RunOptions {
  signal?: AbortSignal
  progress?: (doing: string) => void
  /** Draw a thumbnail too; without a word, yes. */ thumbnail?: boolean
}

/** A texture that lies in a file; `path` names it, for formats without a mark of their own. */
export interface TextureToEncode {
  file: string
  path: string
  /** Packed cells of the islands that use it: errors count there alone. Null: all of it counts. */
  cells: string[] | null
  /** Where the file is a mesh: the hash of the picture inside it. */
  picture?: string
}

/** The pool: one file a task, limits that end the thread and not the process. */
export interface Engine {
  /**
   * Measures a file; its hash is taken as it is given, and trouble, limits included, stands in
   * `measured.fault`. `beside` finds the files that it refers to.
   */
  measure: (
    file: PlacedFile & { sha256: string; sizeBytes: number },
    beside: FindBeside,
    run?: RunOptions,
  ) => Promise<FileMeasurement>
  /** Errors of the open standard's validator in a glTF or GLB. Faults: limits, and a validator that broke off. */
  validate: (
    file: PlacedFile & { sizeBytes: number },
    beside: FindBeside,
    run?: RunOptions,
  ) => Promise<Outcome<StandardFacts>>
  /** Applies a recipe; files whose hash is `known` and that come out as they came are not measured again. */
  mend: (
    asset: AssetFiles,
    recipe: Recipe,
    run?: RunOptions & { known?: readonly string[]; stepData?: MendTask['stepData'] },
  ) => Promise<Outcome<MendedAsset>>
  stageModel: (asset: AssetFiles, run?: RunOptions) => Promise<Outcome<Uint8Array | null>>
  /** A texture as PNG, for a page whose browser does not read its format. Faults: those of decoding. */
  picture: (file: string, path: string, run?: RunOptions) => Promise<Outcome<Uint8Array>>
  /**
   * The figures of a texture over the texels that islands use, by their packed cells; null where hardly any are used.
   * Faults: those of decoding, limits.
   */
  measureUsed: (
    file: string,
    path: string,
    cells: string[],
    run?: RunOptions,
  ) => Promise<Outcome<UsedFacts | null>>
  /** Encodes a texture and measures it as it is read back. Faults: of reading, of the encoder, limits. */
  encode: (texture: TextureToEncode, plan: EncodingPlan, run?: RunOptions) => Promise<Outcome<EncodedTexture>>
  /** What a texture loses in a format, over windows of it. Faults: of reading, of the encoder, limits. */
  storedError: (
    texture: TextureToEncode,
    as: Pick<EncodingPlan, 'format' | 'role'>,
    run?: RunOptions,
  ) => Promise<Outcome<StoredError>>
  /** Finds the smallest way to store a texture that holds what is wanted. Faults: of reading, of the encoder, limits. */
  search: (texture: TextureToEncode, wish: FormatWish, run?: RunOptions) => Promise<Outcome<FormatSearch>>
  /** Takes a scene apart by its parts. Faults: of reading, limits. */
  takeApart: (
    task: Omit<ApartTask, 'kind'>,
    beside: FindBeside,
    run?: RunOptions,
  ) => Promise<Outcome<TakenApart>>
  /**
   * Pictures of the parts of a scene in one PNG, row after row of `PARTS_A_ROW` squares of `THUMBNAIL_SIZE`.
   * Faults: of reading, limits.
   */
  drawParts: (
    task: Omit<DrawPartsTask, 'kind'>,
    beside: FindBeside,
    run?: RunOptions,
  ) => Promise<Outcome<Uint8Array>>
  close: () => Promise<void>
}

/**
 * The pool is opened when it is first asked for, since a check whose files are all known needs no thread; or
 * comes open already.
 */
export function createEngine(options: EngineOptions, open: Pool | null = null): Engine {
  let made = open
  const pool = (): Pool => (made ??= openPool(options))
  const run = <T>(task: Task, o: RunOptions = {}, about: { sizeBytes?: number; beside?: FindBeside } = {}) =>
    runTask<T>(pool(), task, {
      ...o,
      seconds: timeLimit(task, options.secondsPerFile, about.sizeBytes),
      beside: about.beside ?? nothingAround,
    })
  return {
    async measure(file, beside, o) {
      const done = await run<FileMeasurement>(
        {
          kind: 'measure',
          path: file.path,
          file: file.file,
          sha256: file.sha256,
          thumbnail: o?.thumbnail ?? true,
        },
        o,
        { sizeBytes: file.sizeBytes, beside },
      )
      return done.ok ? done.value : { measured: stopped(file, done.fault), ...nothingBeside }
    },
    async validate(file, beside, o) {
      const done = await run<Outcome<StandardFacts>>(
        { kind: 'validate', path: file.path, file: file.file },
        o,
        { sizeBytes: file.sizeBytes, beside },
      )
      return done.ok ? done.value : done
    },
    async mend(asset, recipe, o) {
      const done = await run<Outcome<MendedAsset>>(
        {
          kind: 'mend',
          ...asset,
          recipe,
          stepData: o?.stepData ?? [],
          thumbnail: o?.thumbnail ?? true,
          known: [...(o?.known ?? [])],
        },
        o,
      )
      return done.ok ? done.value : done
    },
    async stageModel(asset, o) {
      const done = await run<Outcome<Uint8Array | null>>({ kind: 'stage', ...asset }, o)
      return done.ok ? done.value : done
    },
    async picture(file, path, o) {
      const done = await run<Outcome<Uint8Array>>({ kind: 'picture', path, file }, o)
      return done.ok ? done.value : done
    },
    async measureUsed(file, path, cells, o) {
      const done = await run<Outcome<UsedFacts | null>>({ kind: 'used', path, file, cells }, o)
      return done.ok ? done.value : done
    },
    async encode(texture, plan, o) {
      const done = await run<Outcome<EncodedTexture>>({ kind: 'encode', ...texture, plan }, o)
      return done.ok ? done.value : done
    },
    async storedError(texture, as, o) {
      const done = await run<Outcome<StoredError>>({ kind: 'stored-error', ...texture, as }, o)
      return done.ok ? done.value : done
    },
    async search(texture, wish, o) {
      const done = await run<Outcome<FormatSearch>>({ kind: 'search', ...texture, wish }, o)
      return done.ok ? done.value : done
    },
    async takeApart(task, beside, o) {
      const done = await run<Outcome<TakenApart>>({ kind: 'apart', ...task }, o, { beside })
      return done.ok ? done.value : done
    },
    async drawParts(task, beside, o) {
      const done = await run<Outcome<Uint8Array>>({ kind: 'draw-parts', ...task }, o, { beside })
      return done.ok ? done.value : done
    },
    close: async () => {
      await made?.destroy()
    },
  }
}

const stopped = (file: PlacedFile & { sha256: string; sizeBytes: number }, fault: Fault): MeasuredFile => ({
  path: file.path,
  sha256: file.sha256,
  sizeBytes: file.sizeBytes,
  kind: 'unknown',
  facts: null,
  embedded: {},
  fault: faultAt(fault, { file: file.path }),
})

async function runTask<T>(
  pool: Pool,
  task: Task,
  { signal, progress, seconds, beside }: RunOptions & { seconds: number; beside: FindBeside },
): Promise<Outcome<T>> {
  const limit = new AbortController()
  let timer: ReturnType<typeof setTimeout> | null = null
  const { port1, port2 } = new MessageChannel()
  const answered = new Int32Array(new SharedArrayBuffer(4))
  // What waits for a thread is not slow: time counts from where one takes it up
  port1.on('message', (word: ThreadWord) => {
    if (word === BEGUN) timer ??= setTimeout(() => limit.abort(), seconds * 1000)
    else if (typeof word === 'string') progress?.(word)
    else {
      port1.postMessage(beside(word.ask))
      Atomics.store(answered, 0, 1)
      Atomics.notify(answered, 0)
    }
  })
  port1.unref()
  try {
    const both = signal ? AbortSignal.any([signal, limit.signal]) : limit.signal
    return good(
      (await pool.run({ task, port: port2, answered }, { signal: both, transferList: [port2] })) as T,
    )
  } catch (error) {
    if (signal?.aborted) throw error
    return limit.signal.aborted ? tooSlow(task, seconds) : broken(error)
  } finally {
    if (timer !== null) clearTimeout(timer)
    port1.close()
  }
}

function broken(error: unknown): { ok: false; fault: Fault } {
  const { code, message } = error as { code?: string; message?: string }
  if (/^(ENOENT|EACCES|EIO|EMFILE|ENFILE|ESTALE):/.test(message ?? ''))
    return bad(
      'file/unreadable',
      'The bytes of the file cannot be read from the disk.',
      'Check that it is still there and that it may be read.',
    )
  const memory = code === 'ERR_WORKER_OUT_OF_MEMORY' || /allocation failed|out of memory/i.test(message ?? '')
  const fault: FaultCode = memory ? 'file/out-of-memory' : 'file/measure-failed'
  return memory
    ? bad(
        fault,
        'It needs more memory than a worker thread may have.',
        'Split the file, or raise the limit (STERN_FILE_MEMORY_MB).',
      )
    : bad(
        fault,
        'Measuring broke off.',
        'This is a fault of Stern Gate, not of the file; please report it with the file.',
      )
}
