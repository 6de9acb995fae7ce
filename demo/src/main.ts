import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { makeDemo } from './makeDemo'

// node dist/demo-files.js <folder>: writes the demo's files
const folder = process.argv[2]
if (folder === undefined) {
  process.stderr.write('usage: demo-files <folder>\n')
  process.exitCode = 2
} else {
  for (const file of await makeDemo()) {
    const path = join(folder, file.path)
    await mkdir(dirname(path), { recursive: true })
    await writeFile(path, file.bytes)
  }
}
