import { readFile, writeFile } from 'node:fs/promises'
import { cpus, totalmem } from 'node:os'
import { fileURLToPath } from 'node:url'
import { contentFigures } from './contentFigures'
import { deliveryFigures } from './deliveryFigures'
import { fitConfidence } from './fitConfidence'
import { encodingFigures } from './encodingFigures'
import { figuresTable, type Figure } from './figure'
import { judgingFigures } from './judgingFigures'
import { checkWholeMesh, meshFigures } from './meshFigures'
import { levelFigures } from './levelFigures'
import { libraryFigures } from './libraryFigures'
import { pairingFigures } from './pairingFigures'
import { readingFigures } from './readingFigures'
import { sceneFigures } from './sceneFigures'
import { takingInFigures } from './takingInFigures'
import { textureFigures } from './textureFigures'
import { checkFolderOnCall } from './warmThreads'

const parts = {
  judging: judgingFigures,
  textures: textureFigures,
  encoding: encodingFigures,
  content: contentFigures,
  meshes: meshFigures,
  reading: readingFigures,
  deliveries: deliveryFigures,
  'taking-in': takingInFigures,
  scenes: sceneFigures,
  levels: levelFigures,
  pairing: pairingFigures,
  library: libraryFigures,
}
const page = new URL('../docs/measurements.md', import.meta.url)

/** A child process of the memory figure: checks one file and tells the most that it held. */
async function tellPeak(file: string): Promise<void> {
  await checkWholeMesh(await readFile(file))
  // Not maxRSS: that one counts the parent's memory from before it became this program
  const peak = /^VmHWM:\s*(\d+) kB/m.exec(await readFile('/proc/self/status', 'utf8'))
  process.send!(Number(peak![1]))
  process.disconnect()
}

/** `npm run bench [-- part…]`: all parts write the page, some only print. */
async function main(asked: string[]): Promise<void> {
  const tell = (line: string): void => void process.stderr.write(`${line}…\n`)
  const figures: Figure[] = []
  for (const [name, part] of Object.entries(parts))
    if (asked.length === 0 || asked.includes(name)) figures.push(...(await part(tell)))
  const machine = `${cpus()[0]!.model.trim()}, ${cpus().length} cores, ${(totalmem() / 2 ** 30).toFixed(1)} GB, Node ${process.version}`
  process.stdout.write(`${machine}\n\n${figuresTable(figures)}\n`)
  if (asked.length > 0) return
  const text = await readFile(page, 'utf8')
  await writeFile(
    page,
    text.replace(
      /(<!-- figures -->\n)[\s\S]*?(\n<!-- end of figures -->)/,
      `$1\n${machine}, ${new Date().toISOString().slice(0, 10)}.\n\n${figuresTable(figures)}\n$2`,
    ),
  )
  process.stdout.write(`\nWritten to ${fileURLToPath(page)}\n`)
}

if (process.argv[2] === '--peak-of') await tellPeak(process.argv[3]!)
else if (process.argv[2] === '--fit-confidence')
  process.stdout.write(`${JSON.stringify(fitConfidence(), null, 2)}\n`)
else if (process.argv[2] === '--check-folder')
  await checkFolderOnCall(process.argv[3]!, Number(process.argv[4]))
else await main(process.argv.slice(2))
