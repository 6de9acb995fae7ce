import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../root.mjs'

/** The TypeScript file that core has of the kernels which are written in core/kernels. */
export async function moduleText() {
  const { default: asc } = await import('assemblyscript/asc')
  const read = (name, folder) => {
    try {
      return readFileSync(join(folder, name), 'utf8')
    } catch {
      return null
    }
  }
  let bytes = null
  const { error, stderr } = await asc.main(
    [
      'index.ts',
      '-O3',
      '--runtime',
      'stub',
      '--noAssert',
      '--enable',
      'simd',
      '--use',
      'abort=',
      '--outFile',
      'kernels.wasm',
    ],
    {
      readFile: (name) => read(name, join(root, 'core/kernels')),
      writeFile: (name, contents) => {
        if (name === 'kernels.wasm') bytes = contents
      },
      listFiles: () => [],
    },
  )
  if (error || !bytes) throw new Error(`the kernels do not compile: ${stderr.toString()}`)
  const names = WebAssembly.Module.exports(new WebAssembly.Module(bytes))
    .filter((e) => e.kind === 'function')
    .map((e) => e.name)
    .sort()
  const text = Buffer.from(bytes).toString('base64')
  return `// Written by npm run kernels from core/kernels.

/** A WebAssembly module of ${bytes.length} bytes. */
export const kernelsModule =
${text
  .match(/.{1,100}/g)
  .map((line) => `  '${line}'`)
  .join(' +\n')}

/** What it can do. */
export type Kernel = ${names.map((name) => `'${name}'`).join(' | ')}
`
}
