import { kernelsModule, type Kernel } from './kernelsModule'

/**
 * The functions of the kernels, as core/kernels has them; lists are given by their place in the kernels'
 * memory.
 */
export type Kernels = Record<Kernel, (...values: number[]) => number>

/**
 * The kernels and their memory, for as long as one piece of work takes. Places stay good until then; views of
 * them only until more room is asked for.
 */
export interface KernelRoom {
  run: Kernels
  /** Copies values in and gives their place. */
  hold: (values: Uint32Array | Float32Array) => number
  /** Room for so many bytes, with whatever stands there. */
  space: (bytes: number) => number
  /** Room for so many bytes, each of this value. */
  filled: (bytes: number, value?: number) => number
  words: (at: number, count: number) => Uint32Array
  floats: (at: number, count: number) => Float32Array
  doubles: (at: number, count: number) => Float64Array
  bytes: (at: number, count: number) => Uint8Array
}

/** Memory of more bytes is given back after the work. */
const KEPT = 64 * 2 ** 20
const PAGE = 65_536

/** What is used of WebAssembly: every host has it, not every host's types. */
interface WasmMemory {
  buffer: ArrayBuffer
  grow: (pages: number) => number
}
interface WasmHost {
  Module: new (bytes: Uint8Array) => object
  Instance: new (module: object) => { exports: Record<string, unknown> }
}

interface Loaded {
  run: Kernels
  memory: WasmMemory
  begin: number
}
let compiled: object | null = null,
  loaded: Loaded | null = null,
  busy = false

function load(): Loaded {
  const { Module, Instance } = (globalThis as unknown as { WebAssembly: WasmHost }).WebAssembly
  compiled ??= new Module(Uint8Array.from(atob(kernelsModule), (c) => c.charCodeAt(0)))
  const { exports } = new Instance(compiled)
  const run = exports as Kernels
  return (loaded = { run, memory: exports['memory'] as WasmMemory, begin: run.heapBegin() })
}

/**
 * Does one piece of work with the kernels. Their memory is one for all, so that a piece cannot hold another.
 */
export function inKernels<T>(work: (room: KernelRoom) => T): T {
  if (busy) throw new Error('the kernels are at work already')
  busy = true
  const { run, memory, begin } = loaded ?? load()
  try {
    return work(roomOf(run, memory, begin))
  } finally {
    busy = false
    if (memory.buffer.byteLength > KEPT) loaded = null
  }
}

function roomOf(run: Kernels, memory: WasmMemory, begin: number): KernelRoom {
  let end = begin
  const space = (bytes: number): number => {
    const at = end
    end = Math.ceil((end + bytes) / 16) * 16
    if (end > memory.buffer.byteLength) memory.grow(Math.ceil((end - memory.buffer.byteLength) / PAGE))
    return at
  }
  const bytes = (at: number, count: number): Uint8Array => new Uint8Array(memory.buffer, at, count)
  return {
    run,
    space,
    bytes,
    hold(values) {
      const at = space(values.byteLength)
      if (values instanceof Float32Array) new Float32Array(memory.buffer, at, values.length).set(values)
      else new Uint32Array(memory.buffer, at, values.length).set(values)
      return at
    },
    filled(count, value = 0) {
      const at = space(count)
      bytes(at, count).fill(value)
      return at
    },
    words: (at, count) => new Uint32Array(memory.buffer, at, count),
    floats: (at, count) => new Float32Array(memory.buffer, at, count),
    doubles: (at, count) => new Float64Array(memory.buffer, at, count),
  }
}

/**
 * Long lists are walked so many at a time: what is read and written stays near, and the engine gets to put
 * better code in place.
 */
export const BLOCK = 16_384

/** Calls for 0 … BLOCK, BLOCK … 2 BLOCK and so on up to count. */
export function inBlocks(count: number, work: (from: number, to: number) => void): void {
  for (let from = 0; from < count; from += BLOCK) work(from, Math.min(count, from + BLOCK))
}

/** Triangles of a list in blocks: each block is copied to `at`, which has room for one. */
export function triangleBlocks(
  room: KernelRoom,
  indices: Uint32Array,
  work: (at: number, from: number, count: number) => void,
): void {
  const triangles = Math.floor(indices.length / 3)
  const at = room.space(Math.min(triangles, BLOCK) * 12)
  inBlocks(triangles, (from, to) => {
    room.words(at, (to - from) * 3).set(indices.subarray(from * 3, to * 3))
    work(at, from, to - from)
  })
}

/** Adds a list of numbers to another. */
export function append(list: number[], more: Uint32Array): void {
  for (let k = 0; k < more.length; k++) list.push(more[k]!)
}
