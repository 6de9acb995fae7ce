// npm run kernels: assembles the kernels for pictures and meshes and writes them as TypeScript.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from '../root.mjs'
import { moduleText } from './assemble.mjs'
import { meshModuleText } from './assembleMesh.mjs'

writeFileSync(join(root, 'core/src/image/byteSumsKernel.ts'), await moduleText())
writeFileSync(join(root, 'core/src/geometry/meshModule.ts'), await meshModuleText())
