import { bad } from '@stern-gate/contract'
import type { JobServices } from '../services/services'
import { collect } from '../care/doctor'
import { judgeEnded } from '../judging/givenWaivers'
import { fileChange } from '../store/deliveries'
import { changeAndTell } from '../store/eventLog'
import { addAssembly, addBulkWork, addJobs, addJudging, addPacking } from '../store/jobQueue'
import {
  listUnattendedAssets,
  listUnattendedChanges,
  listUnattendedDeliveries,
  listUnattendedDispatches,
  listUnattendedFiles,
  type UnattendedFile,
} from '../store/unattended'
import { waitable } from '../trouble/waitable'

const SWEEP_EVERY_MS = 60_000
/** So much is set going by one sweep; the next one goes on. */
const AT_ONCE = 5000

type SweepServices = Pick<JobServices, 'connection' | 'log'>

/**
 * Finds deliveries and assets whose work is nowhere – neither waiting nor running –, whatever became of it, and
 * sets it going. Gives how many things were set going.
 */
export async function sweep(services: SweepServices): Promise<number> {
  const {
    connection: { db },
    log,
  } = services
  const files = await listUnattendedFiles(db, AT_ONCE)
  const lost = files.filter((f) => !f.givenUp)
  await addJobs(
    db,
    'measure_file',
    lost.map(({ file }) => ({ payload: { file }, key: `measure:${file}` })),
  )
  if (lost.length > 0) log.warn({ files: lost.length }, 'files that nobody measured are measured now')
  for (const file of files) if (file.givenUp) await refuse(services, file)
  const deliveries = await listUnattendedDeliveries(db)
  for (const delivery of deliveries) {
    log.warn({ delivery }, 'a delivery that nobody put together is put together now')
    await addAssembly(db, delivery)
  }
  const assets = await listUnattendedAssets(db, AT_ONCE)
  await addJudging(db, assets)
  if (assets.length > 0) log.warn({ assets: assets.length }, 'assets that nobody judged are judged now')
  const changes = await listUnattendedChanges(db)
  for (const change of changes) await addBulkWork(db, change)
  const dispatches = await listUnattendedDispatches(db)
  for (const dispatch of dispatches) await addPacking(db, dispatch)
  if (dispatches.length > 0)
    log.warn({ dispatches: dispatches.length }, 'dispatches that nobody packed are packed now')
  const ended = await judgeEnded(services, new Date().toISOString().slice(0, 10))
  if (ended > 0) log.info({ waivers: ended }, 'waivers have ended: what they accepted is judged anew')
  return files.length + deliveries.length + assets.length + changes.length + dispatches.length
}

/** A file whose job was given up, because each worker that took it ended, is refused; the others go on. */
async function refuse(
  { connection: { db }, log }: SweepServices,
  { file, delivery, project, path }: UnattendedFile,
): Promise<void> {
  log.error({ file: path }, 'measuring was given up')
  const fault = bad(
    'job/failed',
    'Measuring was tried several times, and never came to an end.',
    'See the server log; deliver the file again.',
    { file: path },
  ).fault
  await changeAndTell(db, fileChange(db, file, { state: 'refused', fault }), project, [
    { kind: 'file', delivery, file: path, state: 'refused' },
  ])
}

/** Once a day, and not at the start: what is nobody's is in nobody's way. */
const CARE_EVERY_MS = 24 * 3_600_000

/** Sweeps now and every minute, and takes away what is nobody's once a day, until stopped. */
export async function sweepRegularly(services: JobServices): Promise<{ stop: () => void }> {
  const attempt = () =>
    sweep(services).catch((error: unknown) => {
      if (!waitable(error)) services.log.error({ error }, 'the sweep failed')
    })
  await attempt()
  const timer = setInterval(() => void attempt(), SWEEP_EVERY_MS)
  timer.unref()
  const care = setInterval(() => void takeCare(services), CARE_EVERY_MS)
  care.unref()
  return {
    stop: () => {
      clearInterval(timer)
      clearInterval(care)
    },
  }
}

async function takeCare({ connection: { db }, store, log }: JobServices): Promise<void> {
  try {
    log.info(await collect({ db, store }), 'took away what was nobody’s')
  } catch (error) {
    if (!waitable(error)) log.error({ error }, 'taking away what is nobody’s failed')
  }
}
