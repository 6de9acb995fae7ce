// npm run kernels: assembles the kernels for the pictures and writes them as TypeScript.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../root.mjs'
import { moduleText } from './assemble.mjs'

writeFileSync(join(root, 'core/src/image/byteSumsKernel.ts'), await moduleText())
