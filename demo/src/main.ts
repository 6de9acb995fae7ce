import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { makeDeliveries } from './makeDemo'

// node dist/demo-files.js <folder>: writes the demo's deliveries, a folder each, and a list of them
const folder = process.argv[2]
if (folder === undefined || folder.startsWith('-')) {
  process.stderr.write('usage: demo-files <folder>\n')
  process.exitCode = 2
} else {
  const deliveries = await makeDeliveries()
  for (const [i, { files }] of deliveries.entries())
    for (const file of files) {
      const path = join(folder, String(i + 1), file.path)
      await mkdir(dirname(path), { recursive: true })
      await writeFile(path, file.bytes)
    }
  await writeFile(
    join(folder, 'deliveries.json'),
    JSON.stringify(
      deliveries.map(({ note, daysAgo }, i) => ({ folder: String(i + 1), note, daysAgo })),
      null,
      2,
    ),
  )
}
