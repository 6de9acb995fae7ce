import { byteSumsKernel, byteSumsPlaces as places } from './byteSumsKernel'

/** Least, greatest, sum and sum of squares of a channel's values. */
export interface ByteSums { least: number; greatest: number; sum: number; squares: number }

/** The kernel takes groups of 48 bytes, a multiple of 1, 2, 3 and 4 channels. */
const GROUP = 48
const BLOCK = places.mostGroups * GROUP

interface Kernel { scan: (groups: number) => void; memory: Uint8Array; sums: Uint16Array; squares: Uint32Array }
let kernel: Kernel | null = null

/** What is used of WebAssembly: every host has it, not every host's types. */
interface WasmHost { Module: new (bytes: Uint8Array) => object; Instance: new (module: object) => { exports: Record<string, unknown> } }

function loaded(): Kernel {
  if (kernel) return kernel
  const { Module, Instance } = (globalThis as unknown as { WebAssembly: WasmHost }).WebAssembly
  const { exports } = new Instance(new Module(Uint8Array.from(atob(byteSumsKernel), (c) => c.charCodeAt(0))))
  const { buffer } = exports['memory'] as { buffer: ArrayBuffer }
  kernel = { scan: exports['scan'] as Kernel['scan'], memory: new Uint8Array(buffer), sums: new Uint16Array(buffer, places.sums, GROUP), squares: new Uint32Array(buffer, places.squares, GROUP) }
  return kernel
}

/** Exact figures of every channel of interleaved bytes, 1 to 4 channels, sixteen bytes at a time. */
export function byteSums(data: Uint8Array, channels: number): ByteSums[] {
  const { scan, memory, sums, squares } = loaded()
  const found = Array.from({ length: channels }, (): ByteSums => ({ least: 255, greatest: 0, sum: 0, squares: 0 }))
  const whole = data.length - (data.length % GROUP)
  memory.fill(255, places.least, places.least + GROUP).fill(0, places.greatest, places.greatest + GROUP)
  for (let from = 0; from < whole; from += BLOCK) {
    const to = Math.min(whole, from + BLOCK)
    memory.set(data.subarray(from, to), places.data)
    scan((to - from) / GROUP)
    for (let i = 0; i < GROUP; i++) {
      const own = found[i % channels]!
      own.sum += sums[i]!
      own.squares += squares[i]!
    }
  }
  for (let i = 0; whole > 0 && i < GROUP; i++) {
    const own = found[i % channels]!
    own.least = Math.min(own.least, memory[places.least + i]!)
    own.greatest = Math.max(own.greatest, memory[places.greatest + i]!)
  }
  for (let k = whole; k < data.length; k++) {
    const own = found[k % channels]!, v = data[k]!
    own.least = Math.min(own.least, v)
    own.greatest = Math.max(own.greatest, v)
    own.sum += v
    own.squares += v * v
  }
  return found
}
