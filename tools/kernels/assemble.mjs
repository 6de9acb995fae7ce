import { MOST_GROUPS, places, text } from './byteSums.mjs'

/** The TypeScript file that core has of the kernel. */
export async function moduleText() {
  const { default: wabt } = await import('wabt')
  const parsed = (await wabt()).parseWat('byteSums.wat', text, { simd: true })
  try {
    parsed.validate()
    const bytes = Buffer.from(parsed.toBinary({}).buffer).toString('base64')
    return `// Written by npm run kernels from tools/kernels/byteSums.mjs.

/** A WebAssembly module of ${Buffer.from(bytes, 'base64').length} bytes. */
export const byteSumsKernel =
${bytes.match(/.{1,140}/g).map((line) => `  '${line}'`).join(' +\n')}

/** Where it keeps what it finds, and the most groups of 48 bytes that it takes at a time. */
export const byteSumsPlaces = { ${Object.entries(places).map(([name, at]) => `${name}: ${at}`).join(', ')}, mostGroups: ${MOST_GROUPS} } as const
`
  } finally {
    parsed.destroy()
  }
}
