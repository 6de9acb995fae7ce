// npm run kernels: compiles core/kernels and writes what comes of it as TypeScript.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../root.mjs'
import { moduleText } from './compile.mjs'

writeFileSync(join(root, 'core/src/kernels/kernelsModule.ts'), await moduleText())
